import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const REPOSITORY = fileURLToPath(new URL('../..', import.meta.url));

/** An import: from a file to another or a folder of this repository, by path from its root; null for a package. */
export interface Arrow {
  readonly from: string;
  readonly specifier: string;
  readonly to: string | null;
}

const PASSED_OVER = ['node_modules', 'dist', 'assembly', 'results', 'migrations'];

/** All TypeScript below a folder, by path from the repository's root. */
export function sourcesBelow(folder: string): string[] {
  return readdirSync(join(REPOSITORY, folder), { withFileTypes: true }).flatMap((entry) => {
    const path = `${folder}/${entry.name}`;
    if (entry.isDirectory()) return PASSED_OVER.includes(entry.name) ? [] : sourcesBelow(path);
    return /\.(ts|tsx)$/.test(entry.name) ? [path] : [];
  });
}

export const specifiersIn = (text: string): string[] =>
  [
    ...text.matchAll(
      /(?:^|\n)\s*(?:import|export)\b[^'"`;]*?from\s*['"]([^'"]+)['"]|(?:^|\n)\s*import\s*['"]([^'"]+)['"]|\bimport\(\s*['"]([^'"]+)['"]\s*\)/g,
    ),
  ].map((match) => match[1] ?? match[2] ?? match[3] ?? '');

export function arrow(from: string, specifier: string): Arrow {
  const own = /^@keen-ridge\/([^/]+)(?:\/(.*))?$/.exec(specifier);
  if (own) {
    const path = `${own[1]}/${own[2] ? `${own[2]}/` : ''}`.replace(/\?.*$/, '');
    return { from, specifier, to: /\.\w+$/.test(path) ? path : `${path}index.ts` };
  }
  if (!specifier.startsWith('.')) return { from, specifier, to: null };
  const path = specifier.replace(/\?.*$/, '');
  return { from, specifier, to: relative(REPOSITORY, resolve(REPOSITORY, dirname(from), path)) };
}

export const arrowsOf = (file: string): Arrow[] =>
  specifiersIn(readFileSync(join(REPOSITORY, file), 'utf8')).map((specifier) => arrow(file, specifier));

/** Groups of files that lead back to themselves by their imports, each once, in order of name. */
export function circlesIn(arrows: readonly Arrow[]): string[][] {
  const next = new Map<string, string[]>();
  for (const { from, to } of arrows) if (to !== null) next.set(from, [...(next.get(from) ?? []), to]);
  // Tarjan 1972: strongly connected components, in one walk.
  const [order, low, stack, found] = [
    new Map<string, number>(),
    new Map<string, number>(),
    [] as string[],
    [] as string[][],
  ];
  const visit = (file: string): void => {
    order.set(file, order.size);
    low.set(file, order.get(file)!);
    stack.push(file);
    for (const to of next.get(file) ?? []) {
      if (!order.has(to)) {
        visit(to);
        low.set(file, Math.min(low.get(file)!, low.get(to)!));
      } else if (stack.includes(to)) low.set(file, Math.min(low.get(file)!, order.get(to)!));
    }
    if (low.get(file) !== order.get(file)) return;
    const group = stack.splice(stack.indexOf(file));
    if (group.length > 1 || next.get(file)?.includes(file)) found.push(group.sort());
  };
  for (const file of next.keys()) if (!order.has(file)) visit(file);
  return found;
}

/** The room of a file: the folder below its workspace, or '' for what lies in none. */
export const roomOf = (path: string): string =>
  path.split('/').length > 2 ? (path.split('/')[1] ?? '') : '';

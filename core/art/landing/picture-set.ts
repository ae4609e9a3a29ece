import { likenessApart, SAME_LOOK } from '../../edits/art/index.ts';
import type { Rational } from '../../units/index.ts';
import { findSequences, layerName } from '../index.ts';
import type { ImportedLayer, ImportedPainting } from './imported-painting.ts';

/** How pictures of one size come in: one over the other, or one after the other. */
export const SET_KINDS = ['layers', 'moving'] as const;
export type SetKind = (typeof SET_KINDS)[number];

/** Separate pictures of one size that are one painting. */
export interface PictureSet {
  readonly name: string;
  /** What they are most likely meant as. */
  readonly kind: SetKind;
  /** As layers: on top first. As drawings of what moves: in order of time. */
  readonly members: readonly ImportedPainting[];
}

export type ReadPicture =
  | { readonly kind: 'painting'; readonly painting: ImportedPainting }
  | { readonly kind: 'set'; readonly set: PictureSet };

/** The one picture that a painting is; null where it has layers or moves. */
export function onlyStill(painting: ImportedPainting): ImportedLayer | null {
  const [node, ...rest] = painting.nodes;
  return node?.kind === 'layer' && rest.length === 0 && !node.frames ? node : null;
}

/**
 * Puts together what was read: numbered pictures that look nearly the same are the drawings of one moving plane, and
 * all other single pictures of one size are the layers of one painting. Common practice, no source.
 */
export function pictureSets(paintings: readonly ImportedPainting[]): ReadPicture[] {
  const still = paintings.map((painting) => onlyStill(painting) !== null);
  const taken = new Map<number, PictureSet | null>();
  const take = (indices: readonly number[], set: PictureSet) => {
    for (const index of indices) taken.set(index, null);
    taken.set(Math.min(...indices), set);
  };
  for (const { stem, indices } of findSequences(paintings.map(({ file }, i) => (still[i] ? file : '')))) {
    const members = indices.map((index) => paintings[index]!);
    if (sameSize(members) && looksLikeDrawings(members))
      take(indices, { name: stem, kind: 'moving', members });
  }
  const sizes = new Map<string, number[]>();
  paintings.forEach((painting, index) => {
    if (!still[index] || taken.has(index)) return;
    const size = `${painting.widthPx} × ${painting.heightPx}`;
    sizes.set(size, [...(sizes.get(size) ?? []), index]);
  });
  for (const indices of sizes.values()) {
    const members = indices.map((index) => paintings[index]!);
    if (members.length > 1)
      take(indices, { name: setName(members), kind: 'layers', members: guessedOrder(members) });
  }
  return paintings.flatMap((painting, index): ReadPicture[] => {
    const set = taken.get(index);
    if (set === undefined) return [{ kind: 'painting', painting }];
    return set ? [{ kind: 'set', set }] : [];
  });
}

const sameSize = ([first, ...rest]: readonly ImportedPainting[]): boolean =>
  rest.every(({ widthPx, heightPx }) => widthPx === first?.widthPx && heightPx === first.heightPx);

/** Each is nearly the one before it: drawings of one thing, not layers of a stage. */
function looksLikeDrawings(members: readonly ImportedPainting[]): boolean {
  const layers = members.map((member) => onlyStill(member)!);
  // A picture that covers all among others that do not is a ground, not a drawing.
  const covering = members.filter(coversAll).length;
  if (covering > 0 && covering < members.length) return false;
  const steps = layers.slice(1).map((layer, i) => likenessApart(layers[i]!.likeness, layer.likeness));
  return steps.toSorted((p, q) => p - q)[Math.floor(steps.length / 2)]! <= SAME_LOOK;
}

/** Least alpha, of 255, of a cell of a likeness that counts as opaque. */
const OPAQUE = 254;

/** Share of the picture that it hides, 0 to 1. */
function coverage(painting: ImportedPainting): number {
  const layer = onlyStill(painting);
  const painted = layer?.art.painted;
  if (!layer || !painted) return 0;
  const box = (painted.x1 - painted.x0) * (painted.y1 - painted.y0);
  const alphas = layer.likeness.filter((_, i) => i % 4 === 3);
  const mean = alphas.reduce((sum, alpha) => sum + alpha, 0) / Math.max(1, alphas.length) / 255;
  return (box * mean) / (painting.widthPx * painting.heightPx);
}

/** Hides everything that lies behind it. */
function coversAll(painting: ImportedPainting): boolean {
  const layer = onlyStill(painting);
  const painted = layer?.art.painted;
  if (!layer || !painted) return false;
  const whole =
    painted.x0 <= 0 && painted.y0 <= 0 && painted.x1 >= painting.widthPx && painted.y1 >= painting.heightPx;
  return whole && layer.likeness.every((value, i) => i % 4 !== 3 || value >= OPAQUE);
}

const nameOf = ({ file }: ImportedPainting): string =>
  (file.split(/[/\\]/).at(-1) ?? file).replace(/\.[^.]*$/, '');

/** The number that tells pictures apart: the last one in a name, but for a size such as `1920x1080` or a version `v02`. */
function numberOf(painting: ImportedPainting): number | null {
  const plain = nameOf(painting)
    .replace(/\d+\s*[x×]\s*\d+/gi, ' ')
    .replace(/(^|[^a-z])v\d+/gi, ' ');
  const numbers = plain.match(/\d+/g);
  return numbers ? Number(numbers.at(-1)) : null;
}

/** Words of the trade for how far something is, from far to near; common practice, no source. */
const FAR_TO_NEAR = [
  /^(sky|himmel|ciel|cielo|heaven)/,
  /^(sun|moon|star)/,
  /^cloud/,
  /^(bg|background|back|hintergrund|fond)/,
  /^(far|distant|distance|horizon|fern)/,
  /^(hill|mountain|sea|water)/,
  /^(mid|middle|mg|middleground|mitte|main|stage)/,
  /^(ground|street|floor)/,
  /^(near|nah|close)/,
  /^(fg|foreground|front|vordergrund|overlay|ol)/,
] as const;

/** How near the words of a name say that it is, larger is nearer; null where they say nothing. */
function wordRank(painting: ImportedPainting): number | null {
  const words = nameOf(painting)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-zäöüß]+/);
  const ranks = words.flatMap((word) => {
    const rank = FAR_TO_NEAR.findIndex((pattern) => pattern.test(word));
    return rank < 0 ? [] : [rank];
  });
  return ranks.length > 0 ? Math.max(...ranks) : null;
}

/** Whether two measures of the same pictures rise together (positive) or against each other, pair by pair (Kendall). */
function agreement(p: readonly (number | null)[], q: readonly (number | null)[]): number {
  let sum = 0;
  for (let i = 0; i < p.length; i++)
    for (let j = i + 1; j < p.length; j++) {
      const [pi, pj, qi, qj] = [p[i], p[j], q[i], q[j]];
      if (pi != null && pj != null && qi != null && qj != null)
        sum += Math.sign(pj - pi) * Math.sign(qj - qi);
    }
  return sum;
}

/**
 * The order that is most likely meant, on top first. What hides everything lies behind; numbers say the order, and what
 * hides everything, words, or how much of the picture each hides says which end of them is far. Without numbers the
 * words say it, and else how much each hides.
 */
function guessedOrder(members: readonly ImportedPainting[]): ImportedPainting[] {
  const collator = new Intl.Collator('en', { numeric: true });
  const named = members.toSorted((p, q) => collator.compare(nameOf(p), nameOf(q)));
  const numbers = named.map(numberOf);
  const ranks = named.map(wordRank);
  const hides = named.map(coverage);
  const cover = named.findIndex(coversAll);
  const behindLast = (order: ImportedPainting[]): ImportedPainting[] => {
    const grounds = order.filter(coversAll);
    return grounds.length === 1 ? [...order.filter((p) => p !== grounds[0]), grounds[0]!] : order;
  };
  if (numbers.every((n) => n !== null) && new Set(numbers).size === numbers.length) {
    const rising = named.toSorted((p, q) => numberOf(p)! - numberOf(q)!);
    const onTopFirst = farEndIsHigh() ? rising : rising.toReversed();
    return behindLast(onTopFirst);
  }
  const byHiding = named.map((_, i) => i).toSorted((i, j) => hides[j]! - hides[i]!);
  /** A name without a word takes the mean of the nearest names with one that hide more and less than it. */
  const rankOf = (index: number): number => {
    if (ranks[index] != null) return ranks[index];
    const place = byHiding.indexOf(index);
    const said = (indices: readonly number[]) => indices.map((i) => ranks[i]).find((rank) => rank != null);
    const around = [said(byHiding.slice(0, place).toReversed()), said(byHiding.slice(place + 1))];
    const known = around.filter((rank) => rank != null);
    return known.length > 0 ? known.reduce((sum, rank) => sum + rank, 0) / known.length : 0;
  };
  const nearFirst = named.map((_, i) => i).toSorted((i, j) => rankOf(j) - rankOf(i) || hides[i]! - hides[j]!);
  return behindLast(nearFirst.map((index) => named[index]!));

  /** Whether high numbers are far: told by the one that hides all, then by words, then by what hides more. */
  function farEndIsHigh(): boolean {
    const place = (index: number) =>
      numbers.filter((n) => n! < numbers[index]!).length / (numbers.length - 1);
    if (cover >= 0 && named.filter(coversAll).length === 1 && place(cover) !== 0.5) return place(cover) > 0.5;
    const words = agreement(numbers, ranks);
    if (words !== 0) return words < 0;
    return agreement(numbers, hides) > 0;
  }
}

/** What the names have in common, or that they are so many pictures. */
function setName(members: readonly ImportedPainting[]): string {
  const names = members.map(nameOf);
  const [first = ''] = names;
  let length = 0;
  while (length < first.length && names.every((name) => name[length] === first[length])) length++;
  const common = first.slice(0, length).replace(/[-_. \d]+$/, '');
  return layerName(common.length > 1 ? common : '', `${members.length} pictures`);
}

/** What tells the pictures of a set apart, whatever order they are in: folders may hold pictures of one name. */
export function memberKeys(members: readonly ImportedPainting[]): string[] {
  const seen = new Map<string, number>();
  return members.map((member) => {
    const key = `${member.file} ${onlyStill(member)?.art.id ?? ''}`;
    const before = seen.get(key) ?? 0;
    seen.set(key, before + 1);
    return before === 0 ? key : `${key} ${before + 1}`;
  });
}

/** The painting that a set of pictures makes, each picture under its own name and file. */
export function paintingOfSet(
  { name, members }: Pick<PictureSet, 'name' | 'members'>,
  kind: SetKind,
  rate: Rational,
): ImportedPainting {
  const first = members[0]!;
  const notKept = [...new Set(members.flatMap((member) => member.notKept))];
  const whole = { ...first, notKept, alphaUnsure: members.some(({ alphaUnsure }) => alphaUnsure) };
  if (kind === 'moving') {
    const delayMs = (1000 * rate.den) / rate.num;
    const frames = members.map((member) => ({ art: onlyStill(member)!.art, delayMs }));
    return { ...whole, nodes: [{ ...onlyStill(first)!, key: first.file, name, frames }] };
  }
  const keys = memberKeys(members);
  const nodes = members.map((member, i) => ({
    ...onlyStill(member)!,
    key: keys[i]!,
    name: layerName(nameOf(member), 'Untitled'),
    file: member.file,
  }));
  return { ...whole, file: name, nodes };
}

/** What was read as paintings, every set of pictures as it is most likely meant. */
export const asPaintings = (paintings: readonly ImportedPainting[], rate: Rational): ImportedPainting[] =>
  pictureSets(paintings).map((read) =>
    read.kind === 'painting' ? read.painting : paintingOfSet(read.set, read.set.kind, rate),
  );

import { mkdir, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import type { GuideFile } from '../survey/guide-files.ts';
import { archivePackages, unpackArchive } from './archive.ts';
import { readWhole } from './arguments.ts';
import { exportShot } from './export.ts';
import { pack } from './pack.ts';
import { openPackage } from './package-file.ts';
import { planLines, printedPlan } from './plan.ts';
import { type RenderOptions, render } from './render.ts';
import { sampledCsv, sampledLines } from './sample.ts';
import { SERVER_HELP, SERVER_VERBS } from './server/server-words.ts';
import { OpenFindings, readCodes, readGuideFormat, readLimits, survey } from './survey.ts';
import { told } from './told.ts';
import { UsageFault } from './usage-fault.ts';
import { writeWhole } from './write-whole.ts';

const HELP = `keen: Keen Ridge without the browser, no database needed

  pack <files…> [--frame 1920x1080] [--rate 24] [--length 96] -o shot.zip
       art files and folders into an open package, first file on top: OpenRaster, PSD, PSB, PNG, APNG,
       GIF, JPEG, WebP, TIFF, SVG, zips of these; numbered pictures become one moving plane
  plan <package> [--frame N] [--json]
       where every plane lands on a frame, in drawing order
  sample <package> [--csv]
       every channel, every plane's place and its speed on screen, on every frame
  survey <package> [--json] [--fail-on edge,hole,…] [--limits gap=1,soft=1,cross=7,slip=12]
         [--paint-list FILE] [--guides DIR] [--guides-as openraster|png|psd]
       what would go wrong in the shot, before it is rendered; exit status 3 where some of it is not left so
  render <package> --out DIR|FILE [--frames 1-24] [--scale 0.5] [--threads N] [--depth 8|16]
         [--ground clear|black|#rrggbb] [--pass depth|matte|matte-seen|motion]
         [--depth-as png|exr-half|exr-float] [--each] [--alone NAME,NAME] [--dim NAME,NAME]
         [--pins] [--numbers] [--sound] [--without-looks]
         [--as png|webm|webm-av1|mp4|ffv1|gif|apng|contact-sheet]
       numbered PNGs in a folder, or a film or sheet as one file: the same bytes as a hand-off of the server
  export <package> --as csv|json|glb|sheet|stills --out FILE [--of camera|datum|NAME,NAME] [--art 2048]
         [--paper A4|A3|letter]
       what others need of a shot: every channel, place and pin on every frame; the stage as glTF 2.0; the
       camera sheet as PDF, or as SVG where FILE ends so; the still set as a zip of pictures in register
  export <package> --as depth|mattes|motion|guide --out DIR|FILE [as with render]
       depth, mattes and motion as numbered frames in a folder; a guide film (MP4 at half size, with frame
       numbers and pins) to animate to
  archive <packages…> -o production.zip [--name NAME]
       shots as one production, each image once: what the wall of a server opens
  archive <production.zip> --out DIR
       the shots of a production as packages`;

const text = { type: 'string' } as const;
const flag = { type: 'boolean' } as const;

function parse(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        frame: text,
        rate: text,
        length: text,
        output: { ...text, short: 'o' },
        out: text,
        frames: text,
        scale: text,
        threads: text,
        as: text,
        depth: text,
        ground: text,
        'fail-on': text,
        'paint-list': text,
        limits: text,
        guides: text,
        of: text,
        art: text,
        paper: text,
        pass: text,
        'depth-as': text,
        'guides-as': text,
        name: text,
        alone: text,
        dim: text,
        pins: flag,
        numbers: flag,
        sound: flag,
        each: flag,
        'without-looks': flag,
        json: { type: 'boolean' },
        csv: { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
      },
    });
  } catch (error) {
    if (!(error instanceof TypeError)) throw error;
    throw new UsageFault(error.message.split('. ')[0] ?? error.message);
  }
}

const onePackage = (verb: string, paths: readonly string[]): string => {
  if (paths.length !== 1 || !paths[0]) throw new UsageFault(`${verb}: name one package`);
  return paths[0];
};

const needed = (verb: string, name: string, value: string | undefined): string => {
  if (value === undefined) throw new UsageFault(`${verb}: ${name} is missing`);
  return value;
};

const paintListTo = (path: string | undefined, from: string) =>
  path === undefined
    ? undefined
    : (csv: string) => writeWhole(resolve(from, path), path, (part) => writeFile(part, csv));

const guidesTo = (path: string | undefined, as: string | undefined, from: string) => {
  if (path === undefined) return undefined;
  const folder = resolve(from, path);
  return {
    format: readGuideFormat(as ?? 'openraster'),
    keep: ({ name, bytes }: GuideFile) =>
      told(path, async () => {
        await mkdir(folder, { recursive: true });
        await writeFile(join(folder, name), bytes);
      }),
  };
};

/** What leaves as frames or a film, by what render is told for it. */
const RENDERED = new Map<string, Partial<RenderOptions> & Pick<RenderOptions, 'as' | 'pass'>>([
  ['depth', { as: 'png', pass: 'depth' }],
  ['mattes', { as: 'png', pass: 'matte-seen' }],
  ['motion', { as: 'png', pass: 'motion' }],
  ['guide', { as: 'mp4', pass: 'picture', scale: '0.5', pins: true, numbers: true }],
]);

const renderWishes = (verb: string, values: ReturnType<typeof parse>['values'], from: string) => ({
  frames: values.frames,
  out: needed(verb, '--out DIR', values.out),
  scale: values.scale ?? '1',
  threads: values.threads,
  depth: values.depth ?? '8',
  ground: values.ground,
  depthAs: values['depth-as'],
  alone: values.alone,
  dim: values.dim,
  pins: values.pins ?? false,
  numbers: values.numbers ?? false,
  sound: values.sound ?? false,
  plainPaint: values['without-looks'] ?? false,
  each: values.each ?? false,
  from,
});

/** What a verb prints. `from`: the folder that paths are relative to. Throws UsageFault for what the caller must mend. */
export async function keen(
  args: readonly string[],
  from: string,
  warn: (line: string) => void,
): Promise<string> {
  const { values, positionals } = parse(args);
  const [verb, ...paths] = positionals;
  if (values.help || verb === undefined) return `${HELP}\n${SERVER_HELP}`;
  switch (verb) {
    case 'pack':
      return pack(paths, {
        frame: values.frame ?? '1920x1080',
        rate: values.rate ?? '24',
        length: values.length ?? '96',
        output: needed(verb, '-o FILE', values.output),
        from,
        warn,
      });
    case 'plan': {
      const { scene } = await openPackage(resolve(from, onePackage(verb, paths)));
      const plan = printedPlan(scene, readWhole('--frame', values.frame ?? '1', 1, scene.lengthFrames));
      return values.json ? JSON.stringify(plan, null, 2) : planLines(plan);
    }
    case 'sample': {
      const { scene } = await openPackage(resolve(from, onePackage(verb, paths)));
      return values.csv ? sampledCsv(scene) : sampledLines(scene);
    }
    case 'survey':
      return survey(await openPackage(resolve(from, onePackage(verb, paths))), {
        json: values.json ?? false,
        failOn: readCodes(values['fail-on']),
        limits: readLimits(values.limits),
        guides: guidesTo(values.guides, values['guides-as'], from),
        keepPaintList: paintListTo(values['paint-list'], from),
      });
    case 'render':
      return render(onePackage(verb, paths), {
        ...renderWishes(verb, values, from),
        as: values.as ?? 'png',
        pass: values.pass,
      });
    case 'export': {
      const as = needed(verb, '--as csv|json|glb|sheet|stills|depth|mattes|motion|guide', values.as);
      const rendered = RENDERED.get(as);
      if (rendered)
        return render(onePackage(verb, paths), { ...renderWishes(verb, values, from), ...rendered });
      return exportShot(onePackage(verb, paths), {
        as,
        out: needed(verb, '--out FILE', values.out),
        of: values.of,
        art: values.art,
        paper: values.paper,
        from,
      });
    }
    case 'archive':
      if (values.output !== undefined) {
        if (paths.length === 0) throw new UsageFault('archive: name at least one package');
        return archivePackages(paths, { out: values.output, name: values.name, from });
      }
      return unpackArchive(onePackage(verb, paths), {
        out: needed(verb, '-o FILE, or --out DIR', values.out),
        from,
        warn,
      });
    default:
      throw new UsageFault(
        `${verb}: no such verb; there are pack, plan, sample, survey, render, export, archive, ${SERVER_VERBS.join(', ')}`,
      );
  }
}

/** Runs one call and returns the exit status: 0, 2 for bad input with one line on standard error, 3 for open findings. */
export const main = (args: readonly string[], from: string): Promise<number> =>
  exitStatus(() => keen(args, from, (line) => console.error(line)));

/** Prints what a call says, or the one line of what the caller must mend. */
export async function exitStatus(call: () => Promise<string>): Promise<number> {
  try {
    console.log(await call());
    return 0;
  } catch (error) {
    if (error instanceof OpenFindings) {
      console.log(error.message);
      return 3;
    }
    if (!(error instanceof UsageFault)) throw error;
    console.error(`keen: ${error.message.replaceAll('\n', ' ')}`);
    return 2;
  }
}

import type { Side } from '../image/index.ts';
import { type ChannelId, channelRef } from '../staging/index.ts';
import type { Cure, Finding, SurveyCode } from '../survey/index.ts';
import { assertNever } from '../units/index.ts';

export const SURVEY_KIND_WORDS: Readonly<Record<SurveyCode, string>> = {
  hole: 'Nothing there',
  edge: 'Runs out',
  reveal: 'Bare behind',
  pass: 'Passed',
  soft: 'Soft',
  pace: 'Too fast',
  slip: 'Slides on',
  jump: 'Jumps',
  loop: 'Does not close',
  flat: 'Looks flat',
  seam: 'Abuts',
  unseen: 'Not seen',
};

const SIDE_WORDS: Readonly<Record<Side, string>> = {
  left: 'on the west',
  right: 'on the east',
  top: 'on the north',
  bottom: 'on the south',
};

/** Names of planes and channels, for sentences. */
export interface Names {
  readonly plane: (id: string) => string;
  readonly channel: (id: ChannelId) => string;
}

const number = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });
const fine = new Intl.NumberFormat('en', { maximumFractionDigits: 2 });
const px = (value: number): string => (value < 10 ? fine : number).format(value);

/** What would go wrong, in a few words. */
export function findingTitle(finding: Finding, { plane, channel }: Names): string {
  switch (finding.code) {
    case 'edge':
      return `${plane(finding.planeId)} runs out ${SIDE_WORDS[finding.side]}`;
    case 'hole':
      return 'Nothing is there';
    case 'reveal':
      return `${plane(finding.planeId)} is bare${finding.byId ? ` behind ${plane(finding.byId)}` : ''}`;
    case 'soft':
      return `${plane(finding.planeId)} is soft`;
    case 'pace':
      return `${plane(finding.planeId)} crosses the frame in ${fine.format(finding.crossingSeconds)} s`;
    case 'slip':
      return `${plane(finding.planeId)} slides ${px(finding.measured)} px on ${plane(finding.onId)}`;
    case 'jump':
      return `${channel(finding.channel)} jumps`;
    case 'flat':
      return `${plane(finding.planeId)} and ${plane(finding.besideId)} look like one`;
    case 'seam':
      return `${plane(finding.planeId)} and ${plane(finding.besideId)} leave a hairline`;
    case 'unseen':
      return `${plane(finding.planeId)} is never seen`;
    case 'pass':
      return `${plane(finding.planeId)} is passed at once`;
    case 'loop':
      return `${plane(finding.planeId)} does not close the loop`;
    default:
      return assertNever(finding);
  }
}

/** What it means, in one sentence. */
export function findingSentence(finding: Finding): string {
  switch (finding.code) {
    case 'edge':
      return `${px(finding.measured)} px of the frame show what is behind it: ${number.format(finding.areaPx)} px in all.`;
    case 'hole':
      return `${number.format(finding.measured)} px of the frame are empty at the worst.`;
    case 'reveal':
      return `The move uncovers ${number.format(finding.measured)} px that were never painted, ${number.format(finding.widestArtPx)} px at the widest.`;
    case 'soft':
      return `${fine.format(finding.measured)} px of the film for each painted px: paint it at ${finding.paintPercent} %.`;
    case 'pace':
      return `May strobe: ${px(finding.measured)} px a frame, and ${px(finding.limit)} are safe.`;
    case 'slip':
      return `They touch at the start, and ${px(finding.limit)} px are allowed.`;
    case 'jump':
      return `The datum changes its speed by ${px(finding.measured)} px a frame at once.`;
    case 'flat':
      return `They slide apart by ${px(finding.measured)} px over the whole shot.`;
    case 'seam':
      return `They abut: between the px up to ${number.format(finding.measured * 100)} % of what is behind shows through.`;
    case 'unseen':
      return finding.why === 'behind'
        ? 'Nearer planes hide it all through.'
        : 'It lies outside of the frame all through.';
    case 'pass':
      return `It fills ${number.format(finding.measured * 100)} % of the frame when the camera goes through it, without a fade.`;
    case 'loop':
      return `${fine.format(finding.measured)} of a turn are missing at the end.`;
    default:
      return assertNever(finding);
  }
}

/** When it is seen: `61–109, worst 92`. */
export function findingFrames({ firstFrame, worstFrame, lastFrame }: Finding): string {
  if (firstFrame === lastFrame) return `${firstFrame}`;
  const worst = worstFrame === firstFrame ? '' : `, worst ${worstFrame}`;
  return `${firstFrame}–${lastFrame}${worst}`;
}

const TOWARDS: Readonly<Record<Side, string>> = { left: 'W', right: 'E', top: 'N', bottom: 'S' };
const withSign = new Intl.NumberFormat('en', { maximumFractionDigits: 0, signDisplay: 'exceptZero' });
/** With a minus that is one, as everywhere else on the page. */
const signed = (value: number): string => withSign.format(value).replace('-', '−');

const REPEAT_WORDS: Readonly<Record<Extract<Cure, { kind: 'repeat' }>['repeat'], string>> = {
  none: 'Do not repeat it',
  across: 'Repeat it across',
  down: 'Repeat it down',
  both: 'Repeat it both ways',
};
const valueWords = (channel: ChannelId, value: number): string =>
  channelRef(channel).name === 'zoom' ? `${fine.format(value)} ×` : signed(value);

/** What a cure does, as it stands on its button. */
export function cureWords(cure: Cure, { plane, channel }: Names): string {
  switch (cure.kind) {
    case 'size':
      return `Size ${fine.format(cure.percent)} %`;
    case 'overlap':
      return `Overlap ${plane(cure.onId)} by ${fine.format(cure.px)} px`;
    case 'slide':
      return `Slide ${number.format(Math.ceil(cure.px))} px ${TOWARDS[cure.towards]}`;
    case 'depth':
      return `${cure.bySpx > 0 ? 'Deeper' : 'Nearer'}: ${signed(cure.bySpx)}`;
    case 'together':
      return `To the depth of ${plane(cure.withId)}: ${signed(cure.bySpx)}`;
    case 'mount':
      return `Ride on ${plane(cure.onId)}`;
    case 'longer':
      return `${number.format(cure.frames)} frames longer`;
    case 'stop':
      return `End ${channel(cure.channel)} at ${valueWords(cure.channel, cure.value)}`;
    case 'shorter':
      return `Shorter way: ${fine.format(cure.percent)} %`;
    case 'repeat':
      return REPEAT_WORDS[cure.repeat];
    case 'smooth':
      return 'Smooth the speed';
    case 'rest':
      return 'Come to rest there';
    case 'close':
      return 'Close the loop';
    case 'fade':
      return 'Fade it out';
    default:
      return assertNever(cure);
  }
}

/** What would have to be painted against a finding; null where paint does not cure it. */
export function paintWords(finding: Finding): string | null {
  switch (finding.code) {
    case 'edge':
      return `Paint ${number.format(finding.paintArtPx)} art px more`;
    case 'reveal':
      return 'Paint what is bare';
    case 'soft':
      return `Paint it at ${number.format(finding.paintPercent)} %`;
    default:
      return null;
  }
}

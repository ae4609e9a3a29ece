import type { Scene } from '../../scene/index.ts';

/** A shot of a production as others list it. */
export interface ShotEntry {
  readonly name: string;
  readonly frame: Scene['frame'];
  readonly rate: Scene['rate'];
  readonly lengthFrames: number;
  readonly planes: number;
  readonly findings: { readonly open: number; readonly leftSo: number; readonly advice: number };
  /** The newest film of its whole length, and its first frame's number; null where none was handed off. */
  readonly film: { readonly fileName: string } | null;
}

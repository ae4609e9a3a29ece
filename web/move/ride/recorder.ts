import { ride } from '@keen-ridge/core/edits/camera';
import { keyPlanesOnFrame, setCamera } from '@keen-ridge/core/edits/keys';
import type { Point } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { cameraAfterDrag } from '@keen-ridge/core/stage';
import { type PathOwner, stageFrameOf, steadyPoseAt } from '@keen-ridge/core/staging';
import { type PenSample, placesOfRide } from '@keen-ridge/core/timing/moves';
import { rationalToNumber } from '@keen-ridge/core/units';
import { usePreferences } from '../../session/choices/preferences.ts';
import { playRange, shotViewOf } from '../../session/choices/shot-view.ts';
import type { Gesture } from '../../session/gesture.ts';
import type { Session } from '../../session/session.ts';

/**
 * Records where a pen goes while the shot plays at the chosen speed. Whatever holds the pen says when: a hand by the
 * clock, the simulated one by its own. What was ridden is kept as one edit, smoothed, in few keys.
 */
export class RideRecorder {
  private readonly session: Session;
  private readonly owner: PathOwner;
  private readonly samples: PenSample[] = [];
  private readonly firstFrame: number;
  private readonly lastFrame: number;
  private readonly framesPerSecond: number;
  private readonly from: Point;
  private readonly gesture: Gesture;
  private ended = false;

  constructor(session: Session, owner: PathOwner, at: Point) {
    const { scene, frame } = session.state;
    const { start, end } = playRange(shotViewOf(session.shot.id).range, scene.lengthFrames);
    this.session = session;
    this.owner = owner;
    this.from = at;
    this.firstFrame = frame < end - 1 ? frame : start;
    this.lastFrame = end - 1;
    this.framesPerSecond = rationalToNumber(scene.rate) * usePreferences.getState().ride.speed;
    this.samples.push({ seconds: 0, x: 0, y: 0 });
    session.setPlaying(false);
    this.gesture = session.begin('ride', ownerName(scene, owner), () => {
      this.ended = true;
      session.goTo(this.firstFrame);
    });
    session.goTo(this.firstFrame);
  }

  /** The pen is at `at` so many seconds after it was put down. False once the shot has ended. */
  move(at: Point, seconds: number): boolean {
    if (this.ended) return false;
    const by = { x: at.x - this.from.x, y: at.y - this.from.y };
    const last = this.samples.at(-1)!;
    if (seconds > last.seconds) this.samples.push({ seconds, ...by });
    const frame = this.firstFrame + Math.floor(seconds * this.framesPerSecond);
    if (frame > this.lastFrame) return false;
    this.session.goTo(frame);
    this.gesture.update((scene) => this.preview(scene, by, frame));
    return true;
  }

  /** What is ridden under the pen now; the rest of its move goes along. */
  private preview(scene: Scene, by: Point, frame: number): Scene {
    const change = { frame, keying: false };
    if (this.owner.on === 'plane') {
      // The step is counted from where the plane was when the pen came down.
      return keyPlanesOnFrame(scene, new Set([this.owner.plane]), by, change);
    }
    const pose = steadyPoseAt(scene, this.firstFrame);
    const to = cameraAfterDrag(
      stageFrameOf(scene),
      { ...steadyPoseAt(scene, frame), xSpx: pose.xSpx, ySpx: pose.ySpx },
      by,
    );
    return to ? setCamera(scene, { panX: to.x, panY: to.y }, change) : scene;
  }

  /** The pen was lifted: keeps the ride, where something moved. */
  end(): void {
    if (this.ended) return;
    const { smoothSeconds, tolerancePx, speed } = usePreferences.getState().ride;
    // Smoothing is meant in the time of the hand.
    const { x, y } = placesOfRide(this.samples, this.framesPerSecond, smoothSeconds);
    const count = Math.min(x.length, this.lastFrame - this.firstFrame + 1);
    if (count < 2 || speed <= 0) {
      this.gesture.drop();
      return;
    }
    this.ended = true;
    const byPx = Array.from({ length: count }, (_, i) => ({ x: x[i]!, y: y[i]! }));
    const { owner, firstFrame } = this;
    this.gesture.update((scene) => ride(scene, owner, { firstFrame, byPx, toleranceSpx: tolerancePx }));
    this.gesture.keep();
    this.session.goTo(this.firstFrame);
  }

  giveUp(): void {
    this.gesture.drop();
  }
}

const ownerName = (scene: Scene, owner: PathOwner): string =>
  owner.on === 'camera' ? 'the camera' : (planeOf(scene, owner.plane)?.name ?? 'a plane');

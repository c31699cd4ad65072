import type { Bounds, Placed, Vec3 } from '@yard-brace/core';
import { Plane, Vector3 } from 'three';
import { MarksLayer, NO_MARKS } from '../../viewport/layers/marks-layer';
import { PlayedLayer } from '../../viewport/layers/played-layer';
import { PlacedLayer } from '../../viewport/layers/placed-layer';
import { TrialLayer } from '../../viewport/layers/trial-layer';
import { Viewport } from '../../viewport/viewport';

/** The share of the view's diagonal that a mark is large. */
const MARK_SHARE = 0.008;
/** Ground that is seen while nothing stands on it, metres to each side. */
const EMPTY_GROUND_METRES = 6;

/** What is seen round a place that is looked at, metres. */
const LOOK_METRES = 2;

/** What a view of a set-out is composed of. */
export class SetOutScene {
  readonly viewport: Viewport;
  readonly placed: PlacedLayer;
  readonly marks: MarksLayer;
  readonly trial: TrialLayer;
  readonly played: PlayedLayer;
  private laid = '';

  constructor(
    canvas: HTMLCanvasElement,
    gridMetres: number,
    readonly plan: boolean,
  ) {
    this.viewport = new Viewport(canvas, { gridMetres });
    const redraw = () => this.viewport.redraw();
    this.placed = new PlacedLayer(redraw);
    this.marks = new MarksLayer(redraw);
    const moving = () => this.viewport.moving();
    this.trial = new TrialLayer(moving);
    this.played = new PlayedLayer(moving);
    this.viewport.add(this.placed, this.marks, this.trial, this.played);
    if (plan) this.viewport.rig.lookFrom('top');
    this.layGround();
  }

  /** The drawn ground goes along with how far the set reaches. */
  layGround(): void {
    const bounds = this.placed.bounds() ?? EMPTY_BOUNDS;
    const key = [...bounds.min, ...bounds.max].map(Math.round).join();
    if (key === this.laid) return;
    this.laid = key;
    this.viewport.ground.lay({ min: [bounds.min[0], 0, bounds.min[2]], max: bounds.max });
    this.viewport.redraw();
  }

  fit(placed: readonly Placed[] = []): void {
    this.viewport.rig.fit(this.placed.boundsOf(placed) ?? this.placed.bounds() ?? EMPTY_BOUNDS);
    this.viewport.redraw();
  }

  /** A few metres round a place. */
  lookAt(at: Vec3): void {
    const around = (by: number) => at.map((v) => v + by) as Vec3;
    this.viewport.rig.fit({ min: around(-LOOK_METRES), max: around(LOOK_METRES) });
    this.viewport.redraw();
  }

  mark(points: readonly Vec3[], lines: readonly (readonly [Vec3, Vec3])[]): void {
    const unit = this.viewport.size() * MARK_SHARE;
    this.marks.set({ ...NO_MARKS, points, tapes: lines }, unit);
  }

  cutAbove(height: number | null): void {
    this.placed.cut(height === null ? null : new Plane(new Vector3(0, -1, 0), height));
  }

  dispose(): void {
    this.viewport.dispose();
  }
}

const EMPTY_BOUNDS: Bounds = {
  min: [-EMPTY_GROUND_METRES, 0, -EMPTY_GROUND_METRES],
  max: [EMPTY_GROUND_METRES, 2, EMPTY_GROUND_METRES],
};

/** A point on the canvas in CSS pixels from its upper left corner. */
export type ScreenPoint = readonly [x: number, y: number];

/** Where the pointer is, and what is held with it. */
export interface PointerAt {
  at: ScreenPoint;
  /** a button is held */
  pressed: boolean;
  /** it has hardly moved since the button went down: a click */
  still: boolean;
  shift: boolean;
  alt: boolean;
}

/** Owns the pointer while it is active. What it does to the piece, it does by what the page gives it. */
export interface Tool {
  /** the left button is the tool's own, and the right one turns the view */
  readonly drags?: boolean;
  readonly cursor?: string;
  /** true when it takes the pointer that was just pressed, until it is let go: the view is not turned by that */
  grabs?(pointer: PointerAt): boolean;
  down?(pointer: PointerAt): void;
  move?(pointer: PointerAt): void;
  up?(pointer: PointerAt): void;
  /** the pointer left the view, or another tool took over */
  leave?(): void;
  /** true when the key was the tool's */
  key?(event: KeyboardEvent): boolean;
  /** a closed line that is drawn over the view */
  overlay?(): readonly ScreenPoint[];
}

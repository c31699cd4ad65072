/** A place on the canvas in CSS pixels; `behind` when it is behind the eye. */
export interface PlaceOnScreen {
  id: string;
  x: number;
  y: number;
  behind: boolean;
}

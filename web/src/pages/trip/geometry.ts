/** Where things stand in a day's row, CSS pixels from its top. */
export interface RowShape {
  height: number;
  levelTop: number;
  levelBottom: number;
  laneTop: number;
  laneHeight: number;
  panelTop: number;
  panelHeight: number;
  /** A thin band along the top, for what lasts but moves no charge by itself. */
  bandTop: number;
  bandHeight: number;
  base: number;
  sunHeight: number;
  useHeight: number;
}

export const WIDE: RowShape = {
  height: 68,
  levelTop: 5,
  levelBottom: 35,
  laneTop: 37,
  laneHeight: 15,
  panelTop: 46,
  panelHeight: 6,
  bandTop: 0,
  bandHeight: 4,
  base: 59,
  sunHeight: 11,
  useHeight: 9,
};

/** On a phone the handles must suit a thumb. */
export const NARROW: RowShape = {
  height: 98,
  levelTop: 7,
  levelBottom: 42,
  laneTop: 46,
  laneHeight: 25,
  panelTop: 66,
  panelHeight: 8,
  bandTop: 0,
  bandHeight: 6,
  base: 84,
  sunHeight: 15,
  useHeight: 13,
};

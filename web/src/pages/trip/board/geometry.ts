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
  height: 92,
  levelTop: 7,
  levelBottom: 59,
  laneTop: 57,
  laneHeight: 17,
  panelTop: 67,
  panelHeight: 7,
  bandTop: 0,
  bandHeight: 4,
  base: 82,
  sunHeight: 13,
  useHeight: 10,
};

/** On a phone the handles must suit a thumb. */
export const NARROW: RowShape = {
  height: 122,
  levelTop: 8,
  levelBottom: 66,
  laneTop: 70,
  laneHeight: 25,
  panelTop: 90,
  panelHeight: 8,
  bandTop: 0,
  bandHeight: 6,
  base: 108,
  sunHeight: 15,
  useHeight: 13,
};

/** Where things stand in a day's picture, CSS pixels from its top. */
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

/** Room left of each day's picture for the words of its scale. */
export const SCALE_LEFT = 42;
/** The columns of a day's row before its picture: name and sky, with their gaps. */
export const NAME_LEFT = 166;

export const WIDE: RowShape = {
  height: 100,
  levelTop: 7,
  levelBottom: 67,
  laneTop: 65,
  laneHeight: 17,
  panelTop: 75,
  panelHeight: 7,
  bandTop: 0,
  bandHeight: 4,
  base: 90,
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

/** The chosen day by itself: its blocks stand under the level, where nothing lies over them. */
export const ALONE: RowShape = {
  height: 172,
  levelTop: 7,
  levelBottom: 96,
  laneTop: 101,
  laneHeight: 22,
  panelTop: 127,
  panelHeight: 14,
  bandTop: 0,
  bandHeight: 5,
  base: 158,
  sunHeight: 14,
  useHeight: 12,
};

/** The same for a thumb. */
export const ALONE_NARROW: RowShape = {
  ...ALONE,
  height: 218,
  levelBottom: 106,
  laneTop: 111,
  laneHeight: 38,
  panelTop: 153,
  panelHeight: 28,
  base: 201,
};

/** Whether the window is a phone's. */
export function onPhone(): boolean {
  return window.innerWidth <= 640;
}

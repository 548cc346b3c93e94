/** Hours and days drawn in lanes of anything, and taking hold of what is in them. */
export { HoursGrid } from './HoursGrid.tsx';
export { layOutBars } from './bars.ts';
export {
  dayScale,
  emptyBand,
  hourMarks,
  instantAt,
  topOf,
  type Day,
  type Scale,
} from './dayScale.ts';
export { SNAP_MINUTES, draggedSpan, nudged, type Grip, type Held } from './drag.ts';
export {
  isBar,
  lanesOf,
  nameOf,
  ofMine,
  overlaid,
  type Fitting,
  type GridItem,
  type Lane,
} from './gridItems.ts';
export {
  COLOUR_WORDS,
  LAYER_ROCK,
  MARK_CLASSES,
  itemClass,
  lookOf,
  markStyle,
} from './itemLook.ts';
export { Silhouette, sliceOf } from './Silhouette.tsx';
export { placeOf } from './placeOf.ts';
export { layOutDay } from './layout.ts';
export { CategoriesProvider, useCategoryMap } from './useCategoryMap.ts';
export { useMonthDrag } from './useMonthDrag.ts';

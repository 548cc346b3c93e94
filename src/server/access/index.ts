/** The only place that decides what an actor may see and do. */
export { canSubscribe } from './subscriptions.ts';
export { OUT_OF_REACH, requireWithinReach, withinReach } from './reach.ts';
export { isShownIt, Levels, takesPart, type Viewer } from './levels.ts';
export {
  projectBooking,
  projectDetail,
  type WholeDetail,
  projectLayerItem,
  type BookingRow,
} from './project.ts';
export { titleIn, titlesSeen } from './titles.ts';
export { unprojectedOf, type Unprojected } from './unprojected.ts';
export { levelsSql, seesHolderSql, seesTitleSql } from './seen.ts';
export {
  actsOf,
  coordinates,
  may,
  requireAdministrator,
  requireKeeper,
  requireRight,
  requireSteward,
  rolesThatMay,
} from './roles.ts';

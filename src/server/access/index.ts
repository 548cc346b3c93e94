/** The only place that decides what an actor may see and do. */
export { canSubscribe } from './subscriptions.ts';
export { Levels, takesPart, type Viewer } from './levels.ts';
export {
  projectBooking,
  projectDetail,
  type Unprojected,
  projectLayerItem,
  type BookingRow,
} from './project.ts';
export { titlesSeen } from './titles.ts';
export { levelsSql, seesHolderSql, seesTitleSql } from './seen.ts';
export { actsOf, may, requireRight, requireSteward, rolesThatMay } from './roles.ts';

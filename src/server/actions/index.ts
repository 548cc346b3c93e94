/** What holds for every action, whatever it does. */
export { actorId, actorName, isActor, principalIn, type Actor, type PersonActor } from './actor.ts';
export { breather } from './breathe.ts';

/** What holds for every action, whatever it does. */
export { actorId, type Actor, type PersonActor } from './actor.ts';

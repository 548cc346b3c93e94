import {
  seesBusyTimes,
  seesTitle,
  type SharingLevel,
  type Visibility,
} from '../../core/availability/busy.ts';
import type { Me } from '../../contract/session.ts';
import type { Database } from '../db/transaction.ts';
import { readLevels } from './queries.ts';

/** What a viewer may see of people's calendars; those it does not know are shared nothing. */
export class Sharing {
  private constructor(
    private readonly viewer: Me,
    private readonly levels: ReadonlyMap<number, SharingLevel>,
  ) {}

  static async of(db: Database, viewer: Me, ownerIds: readonly number[]): Promise<Sharing> {
    return new Sharing(viewer, await readLevels(db, viewer.id, ownerIds));
  }

  level(ownerId: number): SharingLevel {
    return this.levels.get(ownerId) ?? 'nothing';
  }

  seesBusyTimes(ownerId: number): boolean {
    return seesBusyTimes(this.level(ownerId));
  }

  seesTitle(ownerId: number, visibility: Visibility): boolean {
    return seesTitle(this.level(ownerId), visibility);
  }

  /** Who has a place is told to those who keep the places, and to those who may see their calendar. */
  seesHolder(ownerId: number): boolean {
    return this.viewer.role !== 'staff' || seesBusyTimes(this.level(ownerId));
  }
}

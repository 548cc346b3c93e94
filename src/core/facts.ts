import type { PlaceFactDetails } from './booking/placeFacts.ts';
import { MEETING_FACT_KINDS, type MeetingFact } from './meetings/meetingFacts.ts';
import { PLACE_FACT_KINDS } from './booking/placeFacts.ts';
import { PERSON_FACT_KINDS, type PersonFactDetails } from './people/personFacts.ts';
import {
  ORGANIZATION_FACT_KINDS,
  type OrganizationFactDetails,
} from './people/organizationFacts.ts';
import { SITE_FACT_KINDS, type SiteFactDetails } from './people/siteFacts.ts';
import { TEAM_FACT_KINDS, type TeamFactDetails } from './people/teamFacts.ts';

/** What happens to things that are no meetings, by the kind of thing, each known by a number. */
interface ThingFactDetails {
  place: PlaceFactDetails;
  person: PersonFactDetails;
  site: SiteFactDetails;
  team: TeamFactDetails;
  organization: OrganizationFactDetails;
}
export type ThingKind = keyof ThingFactDetails;

type FactsOf<Thing extends ThingKind> = {
  [Kind in keyof ThingFactDetails[Thing] & string]: {
    kind: Kind;
    thing: Thing;
    thingId: number;
    details: ThingFactDetails[Thing][Kind];
  };
}[keyof ThingFactDetails[Thing] & string];

/** What happened to something that is no meeting. */
export type ThingFact = { [Thing in ThingKind]: FactsOf<Thing> }[ThingKind];
/** What happened, to whatever it did. */
export type Fact = MeetingFact | ThingFact;
export type FactKind = Fact['kind'];

export const FACT_KINDS: readonly FactKind[] = [
  ...MEETING_FACT_KINDS,
  ...PLACE_FACT_KINDS,
  ...PERSON_FACT_KINDS,
  ...SITE_FACT_KINDS,
  ...TEAM_FACT_KINDS,
  ...ORGANIZATION_FACT_KINDS,
];

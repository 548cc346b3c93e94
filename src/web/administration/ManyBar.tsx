import type { Role, SiteDetail, StaffMember } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import { errorText } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { useChangePeople, useStanding, useWelcomeAgain } from './useAdministration.ts';

const ASK = 'ask';

/** What is done with several people at once. */
export function ManyBar({
  people,
  sites,
  teams,
  onDone,
}: {
  people: readonly StaffMember[];
  sites: readonly SiteDetail[];
  teams: readonly { id: number; name: string }[];
  onDone: () => void;
}) {
  const change = useChangePeople();
  const standing = useStanding();
  const welcome = useWelcomeAgain();
  const failed = [change, standing, welcome].find((one) => one.isError);
  const waiting = people.filter(({ account }) => account === 'invited');
  const gone = people.every(({ account }) => account === 'ended');
  const word = (words: string) => ({ value: ASK as string | number, words });
  return (
    <div
      role="group"
      aria-label="Those who are chosen"
      className="sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-sm border border-gentian bg-gentian-wash px-3 py-1.5"
    >
      <b>{counted(people.length, 'person', 'people')} chosen</b>
      {gone ? (
        <Button look="quiet" onClick={() => standing.mutate({ people, to: 'return' })}>
          Let in again
        </Button>
      ) : (
        <>
          <Select<string | number>
            look="word"
            question="Their site"
            value={ASK}
            options={[word('Site…'), ...sites.map(({ id, name: words }) => ({ value: id, words }))]}
            onChange={(siteId) => {
              const site = sites.find(({ id }) => id === siteId);
              if (site) change.mutate({ people, change: { siteId: site.id, zone: site.zone } });
            }}
          />
          <Select<string | number>
            look="word"
            question="Put them into a team"
            value={ASK}
            options={[word('Team…'), ...teams.map(({ id, name: words }) => ({ value: id, words }))]}
            onChange={(team) => {
              if (typeof team === 'number') change.mutate({ people, change: { into: [team] } });
            }}
          />
          <Select<string | number>
            look="word"
            question="Their role"
            value={ASK}
            options={[
              word('Role…'),
              { value: 'staff', words: 'staff' },
              { value: 'steward', words: 'steward' },
              { value: 'administrator', words: 'administrator' },
            ]}
            onChange={(role) => {
              if (role !== ASK) change.mutate({ people, change: { role: role as Role } });
            }}
          />
          {waiting.length > 0 && (
            <Button look="quiet" onClick={() => welcome.mutate(waiting)}>
              Write to {counted(waiting.length, 'who has', 'who have')} not come
            </Button>
          )}
          <Button
            look="quiet"
            onClick={() => standing.mutate({ people, to: 'end' }, { onSuccess: onDone })}
          >
            End their access
          </Button>
        </>
      )}
      <Button look="quiet" className="ml-auto" onClick={onDone}>
        None
      </Button>
      {failed && (
        <p role="alert" className="w-full font-semibold text-alpenglow">
          {errorText(failed.error)}
        </p>
      )}
    </div>
  );
}

import { Check } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import type { OrganizationDetail, SiteDetail } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import { START_STEPS, type StartStep } from '../../core/people/firstHour.ts';
import { zoneCity } from '../../core/time/format.ts';
import { Failure, may, useMe } from '../client/index.ts';
import { Outline } from '../design/states.tsx';
import { AdminFrame } from './AdminFrame.tsx';
import { MailStep, OrganizationStep, PeopleStep, PlacesStep, SiteStep } from './startSteps.tsx';
import { useOrganization, useSites } from './useAdministration.ts';

/** What is left before others can use this? Five steps in any order, each at an address of its own. */
export function StartView() {
  const me = useMe();
  const organization = useOrganization();
  const sites = useSites();
  const { step: asked } = useParams();
  if (!may(me, 'administer')) return <AdminFrame>{null}</AdminFrame>;
  const failed = organization.isError ? organization : sites.isError ? sites : null;
  if (failed)
    return (
      <main className="p-6">
        <Failure error={failed.error} retry={() => void failed.refetch()} />
      </main>
    );
  if (!organization.data || !sites.data)
    return (
      <main className="p-6">
        <Outline what="the first hour" rows={8} />
      </main>
    );
  const { data } = organization;
  const open = START_STEPS.filter((one) => !data.done.includes(one));
  const step =
    START_STEPS.find((one) => one === asked) ??
    open.find((one) => !data.later.includes(one)) ??
    open[0] ??
    'organization';
  return <Steps key={step} {...{ data, step }} sites={sites.data.sites} />;
}

function Steps({
  data,
  step,
  sites,
}: {
  data: OrganizationDetail;
  step: StartStep;
  sites: readonly SiteDetail[];
}) {
  const [pasted, setPasted] = useState(0);
  const words = wordsOf(data, sites, step === 'people' ? pasted : 0);
  const next = START_STEPS.find((one) => one !== step && !data.done.includes(one));
  const onward = next ? `/administration/start/${next}` : '/administration';
  const STEPS: Record<StartStep, ReactNode> = {
    organization: <OrganizationStep {...{ data, onward }} />,
    site: <SiteStep {...{ sites, onward }} />,
    people: <PeopleStep {...{ data, sites, onward }} onCount={setPasted} />,
    places: <PlacesStep {...{ data, sites, onward }} />,
    mail: <MailStep {...{ data, onward }} />,
  };
  return (
    <main className="flex min-h-full w-full flex-1 max-lg:flex-col">
      <nav
        aria-label="Steps"
        className="flex shrink-0 flex-col border-edge px-6 py-6 max-lg:border-b max-lg:px-4 max-lg:py-3 lg:w-64 lg:border-r"
      >
        <h1 className="text-[22px]">{data.name}</h1>
        <p className="mb-4 text-ink-2 max-lg:mb-2">
          {data.done.length === START_STEPS.length
            ? 'All five steps are done.'
            : `Five steps, in any order. ${DONE[data.done.length]}`}
        </p>
        <ol className="grid gap-0.5">
          {START_STEPS.map((one) => {
            const isDone = data.done.includes(one);
            const isNow = one === step;
            return (
              <li key={one}>
                <Link
                  to={`/administration/start/${one}`}
                  aria-current={isNow ? 'step' : undefined}
                  className={`flex gap-3 rounded-sm border-l-4 py-2 pr-2 pl-2 ${isNow ? 'border-gentian bg-sheet shadow-sm' : 'border-transparent hover:bg-gentian-wash'}`}
                >
                  <Peak state={isDone ? 'done' : isNow ? 'now' : 'open'} />
                  <span className="min-w-0">
                    <b className="block leading-tight">{words[one][0]}</b>
                    <span className={`text-xs text-ink-2 ${isNow ? '' : 'max-lg:hidden'}`}>
                      {words[one][1]}
                    </span>
                  </span>
                </Link>
              </li>
            );
          })}
        </ol>
        <p className="mt-auto border-t border-edge pt-3 text-xs text-ink-2 max-lg:hidden">
          {data.mail.triedAt === null ? 'Nobody is told anything before mail has been tried. ' : ''}
          Each step can be left for later: it is found on Today until all five are done.
        </p>
      </nav>
      <div className="min-w-0 flex-1 bg-paper px-6 py-6 max-lg:px-4 max-lg:py-4">{STEPS[step]}</div>
    </main>
  );
}

const DONE = [
  'None is done.',
  'One is done.',
  'Two are done.',
  'Three are done.',
  'Four are done.',
  '',
];

/** What each step says of itself: as a sentence, and how it stands. */
function wordsOf(
  { name, firstWeekday, clock, done, people, places, mail, later }: OrganizationDetail,
  sites: readonly SiteDetail[],
  pasted: number,
): Record<StartStep, [sentence: string, how: string]> {
  const [site] = sites;
  const left = (step: StartStep) => (later.includes(step) ? 'left for later; ' : '');
  return {
    organization: [
      `We are ${name}`,
      `done; weeks begin on ${firstWeekday === 7 ? 'Sunday' : firstWeekday === 1 ? 'Monday' : 'Saturday'}, ${clock} hours`,
    ],
    site: [
      `We work at ${site?.name ?? 'no site yet'}`,
      done.includes('site')
        ? `done; ${sites
            .map(({ zone }) => zoneCity(zone))
            .slice(0, 3)
            .join(', ')}`
        : `${left('site')}its name, its hours and holidays`,
    ],
    people: [
      'These people work here',
      pasted > 0
        ? `now; ${counted(pasted, 'person', 'people')} understood`
        : done.includes('people')
          ? `done; ${counted(people, 'person', 'people')} with you`
          : `${left('people')}their addresses, as you have them`,
    ],
    places: [
      'We share these places',
      done.includes('places')
        ? `done; ${counted(places, 'place')}`
        : `${left('places')}rooms, desks, things; a name and the number of seats are enough`,
    ],
    mail: [
      'Our letters leave by mail',
      done.includes('mail')
        ? 'done; a letter was seen to arrive'
        : `${left('mail')}one letter to you as a trial${mail.waiting > 0 ? `; ${counted(mail.waiting, 'letter waits', 'letters wait')}` : ''}`,
    ],
  };
}

/** How a step stands, as a peak: done, now, or open; said with it. */
function Peak({ state }: { state: 'done' | 'now' | 'open' }) {
  const looks = {
    done: 'fill-lichen stroke-ink',
    now: 'fill-gentian-wash stroke-gentian',
    open: 'fill-none stroke-ink-2 [stroke-dasharray:3_2]',
  };
  const words = { done: 'done', now: 'now', open: 'open' };
  return (
    <span className="relative mt-0.5 shrink-0">
      <svg width="30" height="22" viewBox="0 0 30 22" aria-hidden="true">
        <path d="M1 20 11 4l5 7 4-5 9 14Z" strokeWidth="1.6" className={looks[state]} />
      </svg>
      {state === 'done' && (
        <Check
          size={12}
          strokeWidth={3.5}
          aria-hidden="true"
          className="absolute top-[9px] left-[9px] text-ink"
        />
      )}
      <span className="sr-only">{words[state]}:</span>
    </span>
  );
}

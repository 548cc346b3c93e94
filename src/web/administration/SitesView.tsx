import { useState } from 'react';
import type { SiteDetail } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import { dateAt } from '../../core/time/wall.ts';
import { formatLongDay, zoneCity } from '../../core/time/format.ts';
import { Failure, useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Outline } from '../design/states.tsx';
import { AdminFrame } from './AdminFrame.tsx';
import { DayOffPanel } from './DayOffPanel.tsx';
import { SiteClosing } from './SiteClosing.tsx';
import { SiteForm } from './SiteForm.tsx';
import { useSites } from './useAdministration.ts';

/** Where the organization works, by which clock, and when it is closed. */
export function SitesView() {
  return (
    <AdminFrame>
      <Sites />
    </AdminFrame>
  );
}

function Sites() {
  const { data, isPending, isError, error, refetch } = useSites();
  const me = useMe();
  const now = useNow();
  const [openId, setOpenId] = useState<number | 'new' | 'day' | null>(null);
  const [isClosing, setClosing] = useState(false);
  const opened = data?.sites.find(({ id }) => id === openId) ?? null;
  const close = () => {
    setOpenId(null);
    setClosing(false);
  };
  const next = ({ holidays, zone }: SiteDetail) =>
    holidays.find(({ date }) => date >= dateAt(now, zone));
  return (
    <div className="px-4 py-4 md:px-6">
      <div className="mb-3 flex items-center justify-between gap-3">
        <p className="text-ink-2">
          New people begin with the hours of their site; its holidays are shaded in every plan.
        </p>
        <span className="flex shrink-0 flex-wrap gap-2">
          <Button onClick={() => setOpenId('day')}>A day off everywhere</Button>
          <Button onClick={() => setOpenId('new')}>Add a site</Button>
        </span>
      </div>
      {isPending && <Outline what="sites" rows={4} />}
      {isError && <Failure error={error} retry={() => void refetch()} />}
      <ul aria-label="Sites" className="border-t border-edge">
        {data?.sites.map((site) => {
          const off = next(site);
          return (
            <li
              key={site.id}
              className="grid gap-x-4 gap-y-0.5 border-b border-edge py-2 sm:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.6fr)]"
            >
              <button
                type="button"
                className="reach text-left font-semibold hover:underline"
                aria-haspopup="dialog"
                onClick={() => setOpenId(site.id)}
              >
                {site.name}
              </button>
              <span className="text-ink-2">
                {[...new Set([site.city, zoneCity(site.zone)])].join(', ')}
              </span>
              <span className="text-ink-2">
                {counted(site.people, 'person', 'people')}, {counted(site.places, 'place')}
              </span>
              <span className="text-ink-2">
                {off
                  ? `next ${formatLongDay(Date.parse(`${off.date}T12:00Z`), me.zone)}, ${off.name}`
                  : 'no holidays to come'}
              </span>
            </li>
          );
        })}
      </ul>
      <Panel
        open={openId !== null && openId !== 'day'}
        onClose={close}
        title={openId === 'new' ? 'A new site' : (opened?.name ?? 'Site')}
      >
        {opened && isClosing ? (
          <>
            <Button
              look="quiet"
              autoFocus
              className="-ml-3 w-fit"
              onClick={() => setClosing(false)}
            >
              Back
            </Button>
            <SiteClosing site={opened} onClosed={close} />
          </>
        ) : (
          <>
            {(openId === 'new' || opened) && (
              <SiteForm key={openId} site={opened} onSaved={close} />
            )}
            {opened && opened.places > 0 && (
              <Button className="mt-4" onClick={() => setClosing(true)}>
                Close it for some days…
              </Button>
            )}
          </>
        )}
      </Panel>
      <DayOffPanel open={openId === 'day'} onClose={close} />
    </div>
  );
}

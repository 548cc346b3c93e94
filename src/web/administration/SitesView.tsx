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
  const [openId, setOpenId] = useState<number | 'new' | null>(null);
  const opened = data?.sites.find(({ id }) => id === openId) ?? null;
  const close = () => setOpenId(null);
  const next = ({ holidays, zone }: SiteDetail) =>
    holidays.find(({ date }) => date >= dateAt(now, zone));
  return (
    <div className="px-4 py-4 md:px-6">
      <div className="mb-3 flex items-center justify-between gap-3">
        <p className="text-ink-2">
          New people begin with the hours of their site; its holidays are shaded in every plan.
        </p>
        <Button onClick={() => setOpenId('new')}>Add a site</Button>
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
        open={openId !== null}
        onClose={close}
        title={openId === 'new' ? 'A new site' : (opened?.name ?? 'Site')}
      >
        {(openId === 'new' || opened) && <SiteForm key={openId} site={opened} onSaved={close} />}
      </Panel>
    </div>
  );
}

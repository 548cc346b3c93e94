import type { CSSProperties } from 'react';
import type { LayerColour } from '../../contract/calendar.ts';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import type { Category } from '../../contract/preferences.ts';

const FILLS: Record<CalendarItem['occupancy'], string> = {
  busy: 'rock',
  tentative: 'rock-tentative',
  away: 'rock-away',
  free: 'bg-sheet border border-edge',
};

/** How an item of a list or a day is drawn: pattern says how the time is taken, the edge whose it is. */
export function itemClass(item: Pick<CalendarItem, 'occupancy' | 'standing'>): string {
  const edge =
    item.standing === 'needs-action'
      ? 'border-l-[3px] border-dashed border-alpenglow'
      : item.standing === 'organizer'
        ? 'border-l-[3px] border-gentian'
        : 'border-l-[3px] border-rock';
  return `${FILLS[item.occupancy]} ${edge}`;
}

/** What each colour is called, and what colour that is. */
export const COLOUR_WORDS: Record<LayerColour, string> = {
  gentian: 'gentian, blue',
  heather: 'heather, purple',
  lake: 'lake, teal',
  spruce: 'spruce, dark green',
  moss: 'moss, light green',
  ochre: 'ochre, yellow-brown',
  rowan: 'rowan, red',
  rose: 'rose, pink',
  slate: 'slate, grey',
  peat: 'peat, brown',
};

export const markStyle = (colour: LayerColour): CSSProperties =>
  ({ '--mark': `var(--c-${colour})` }) as CSSProperties;

interface Look {
  /** The body: how the time is taken. */
  fill: string;
  /** The strip down its left side: my category, or whose layer it is. */
  mark: string;
  markStyle: CSSProperties;
}

/** The hatch of a layer, turned by its place among those that are shown. */
export const LAYER_ROCK = ['rock', 'rock-turned', 'rock-upright'] as const;

/** The edge of what has no category. */
const NO_CATEGORY = { '--mark': 'var(--ink-2)' } as CSSProperties;

/** How an item of the calendar's grids is drawn: what is mine plain, others' taken time as rock. */
export function lookOf(
  item: {
    occupancy: CalendarItem['occupancy'];
    mine: Pick<CalendarItem, 'standing' | 'categoryId'> | null;
    colour: LayerColour | null;
    faint?: boolean;
  },
  categories: ReadonlyMap<number, Category>,
): Look {
  const faint = item.faint ? 'opacity-35' : '';
  if (!item.mine) {
    const fill = `${FILLS[item.occupancy]} ${faint}`;
    if (!item.colour) return { fill, mark: '', markStyle: {} };
    return { fill, mark: 'mark-plain', markStyle: markStyle(item.colour) };
  }
  const category = item.mine.categoryId ? categories.get(item.mine.categoryId) : undefined;
  const style = category ? markStyle(category.colour) : NO_CATEGORY;
  if (item.mine.standing === 'needs-action')
    return { fill: `mine-waiting ${faint}`, mark: '', markStyle: style };
  if (item.occupancy === 'tentative')
    return { fill: `mine-tentative ${faint}`, mark: 'mark-stipple', markStyle: style };
  const mark = category ? MARK_CLASSES[category.pattern] : 'mark-plain';
  return { fill: `mine ${faint}`, mark, markStyle: style };
}

/** Every class a category's mark can have, spelled out so that the style sheet holds them. */
export const MARK_CLASSES = {
  plain: 'mark-plain',
  stripes: 'mark-stripes',
  dots: 'mark-dots',
  waves: 'mark-waves',
  checks: 'mark-checks',
} as const;

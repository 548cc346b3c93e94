const counted = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

/**
 * What sending a meeting does, for its button: `Send to 3 people, hold Gannet`.
 * @param places the names of the places that it holds
 */
export function sendLabel(guests: number, places: readonly string[]): string {
  const held = places.length === 1 ? places[0]! : `${places.length} places`;
  return (
    [
      guests > 0 && `Send to ${counted(guests, 'person', 'people')}`,
      places.length > 0 && `${guests > 0 ? 'hold' : 'Hold'} ${held}`,
    ]
      .filter(Boolean)
      .join(', ') || 'Save to my calendar'
  );
}

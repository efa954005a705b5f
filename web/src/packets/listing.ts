import type { PacketCard as Card } from '../api/client';
import { language } from '../words';

export type Order = 'changed' | 'name';

const collator = new Intl.Collator(language, { numeric: true, sensitivity: 'base' });

/** The packets whose names have all words of a search, in an order. */
export function listed(cards: readonly Card[], search: string, order: Order): Card[] {
  const wanted = search.toLocaleLowerCase(language).split(/\s+/).filter(Boolean);
  const found = cards.filter(({ name }) =>
    wanted.every((word) => name.toLocaleLowerCase(language).includes(word)),
  );
  return found.sort((a, b) =>
    order === 'name' ? collator.compare(a.name, b.name) : Date.parse(b.changed) - Date.parse(a.changed),
  );
}

/** A name that no packet has: with a number where it is taken. */
export function freeName(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  let number = 2;
  while (taken.includes(`${name} ${number}`)) number++;
  return `${name} ${number}`;
}

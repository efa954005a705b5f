import { useState } from 'react';
import { useSearchParams } from 'wouter';
import { api, data, type Packet } from '../api/client';
import { allPages } from '../packet/apply';
import { say, t } from '../words';

export type Which = 'these' | 'odd' | 'even' | 'all';

/** Which pages are cropped: those that the user came with or named in words, or the odd, the even or all. */
export function useChosenPages(packet: Packet) {
  const [address] = useSearchParams();
  const all = allPages(packet);
  const [these, setThese] = useState(() => {
    const named = new Set((address.get('pages') ?? '').split(','));
    const known = all.filter((page) => named.has(page.id)).map((page) => page.id);
    return known.length > 0 ? known : all.map((page) => page.id);
  });
  const [which, setWhich] = useState<Which>('these');
  const chosen = new Set(these);
  const belongs: Record<Which, (id: string, number: number) => boolean> = {
    these: (id) => chosen.has(id),
    odd: (_, number) => number % 2 === 1,
    even: (_, number) => number % 2 === 0,
    all: () => true,
  };
  const pages = all.filter((page) => belongs[which](page.id, page.number));

  /** Takes pages named in words. What is wrong with the words comes back as a sentence. */
  const name = async (text: string): Promise<string | undefined> => {
    const params = { path: { id: packet.id }, query: { text } };
    const answer = await data(api.GET('/api/packets/{id}/selection', { params }));
    if (answer.problem) return say(answer.problem);
    if (answer.pages.length === 0) return t('crop.noPagesMatch');
    setThese(answer.pages);
    setWhich('these');
    return undefined;
  };

  return { pages, which, setWhich, name };
}

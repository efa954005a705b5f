import { useEffect, useMemo, useRef } from 'react';
import { api, data, type Command, type Packet } from '../api/client';
import { allPages, idsOf } from '../packet/apply';
import { pasteCommand, usePageClip, type PageClip } from '../packet/clipboard';
import { count } from '../shared/format';
import { notify, notifyProblem } from '../shared/notify';
import { t } from '../words';

interface Options {
  packet: () => Packet;
  /** The pages that acts are on, in order. */
  chosen: () => string[];
  /** Carries commands out, and gives the packet then; nothing where they could not be. */
  act: (commands: Command[]) => Promise<Packet | undefined>;
  onPasted: (pages: string[]) => void;
}

/** Copies, cuts and pastes pages. What it gives stays the same as long as the options do. */
export function useClipboard({ packet, chosen, act, onPasted }: Options) {
  const [clip, setClip] = usePageClip();
  const newest = useRef(clip);
  useEffect(() => {
    newest.current = clip;
  }, [clip]);
  return useMemo(() => {
    const keep = (next: PageClip | null) => {
      newest.current = next;
      setClip(next);
    };
    const take = (isCut: boolean) => {
      const pages = chosen();
      if (pages.length === 0) return;
      keep({ packet: packet().id, pages, isCut });
      const words = { pages: count(pages.length, 'page') };
      const text = isCut ? t('bench.cutPages', words) : t('bench.copiedPages', words);
      // A picture that was copied before would be pasted otherwise. Where a browser forbids it, it stays.
      navigator.clipboard?.writeText(text).catch(() => undefined);
      notify(text, 'last-act');
    };
    const paste = async () => {
      const from = newest.current;
      const before = packet();
      const command = from ? pasteCommand(before, from, chosen().at(-1)) : undefined;
      if (!from || !command) {
        notifyProblem(t('bench.nothingToPaste'));
        return;
      }
      // Cut pages are pasted once, however fast the key is pressed again.
      if (from.isCut) keep(null);
      const after = await act([command]);
      if (!after) {
        if (from.isCut) keep(from);
        return;
      }
      const known = new Set(idsOf(allPages(before)));
      const added = idsOf(allPages(after)).filter((id) => !known.has(id));
      onPasted(added.length > 0 ? added : from.pages);
      if (from.isCut && from.packet !== before.id) await setAsideIn(from.packet, from.pages);
    };
    return { take, paste };
  }, [packet, chosen, act, onPasted, setClip]);
}

/** Sets pages aside in another packet, which they were moved from, and says so. */
async function setAsideIn(id: string, pages: readonly string[]) {
  const params = { path: { id } };
  try {
    const other = await data(api.GET('/api/packets/{id}', { params }));
    const still = idsOf(allPages(other)).filter((page) => pages.includes(page));
    if (still.length === 0) return;
    const commands: Command[] = [{ do: 'setAside', pages: still }];
    await data(
      api.POST('/api/packets/{id}/commands', { params, body: { revision: other.revision, commands } }),
    );
    notify(t('bench.setAsideThere', { name: other.name }), 'last-act');
  } catch {
    notifyProblem(t('bench.stillThere'));
  }
}

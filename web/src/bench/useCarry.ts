import { useState } from 'react';
import type { Packet } from '../api/client';
import type { Spot } from '../packet/place';
import { count } from '../shared/format';
import { landingBefore, type Row } from './wallLayout';
import { t } from '../words';

interface Options {
  packet: Packet;
  rows: readonly Row[];
  /** The pages that would be picked up. */
  chosen: () => string[];
  onDrop: (pages: ReadonlySet<string>, landing: Spot) => void;
}

interface Carried {
  pages: ReadonlySet<string>;
  spots: Spot[];
  at: number;
}

const PICK_UP = 'm';
const ROW_JUMP = 8;
const SCREEN_JUMP = 40;

/**
 * Dragging with the keyboard: M picks the selected pages up, arrows, Page Up and Down, Home and End carry them from gap
 * to gap, Enter drops them, Escape puts them back.
 */
export function useCarry({ packet, rows, chosen, onDrop }: Options) {
  const [carried, setCarried] = useState<Carried>();
  const [words, setWords] = useState('');

  const go = (state: Carried, to: number) => {
    const at = Math.max(0, Math.min(state.spots.length - 1, to));
    setCarried({ ...state, at });
    setWords(whereWords(packet, state.spots[at]));
  };

  const pickUp = () => {
    const pages = chosen();
    const first = pages[0];
    if (first === undefined) return;
    const spots = packet.parts.flatMap((part): Spot[] => [
      ...part.pages.map((_, index) => ({ part: part.id, index })),
      { part: part.id, index: part.pages.length },
    ]);
    const own = packet.parts.find((part) => part.pages.some((page) => page.id === first));
    const index = own?.pages.findIndex((page) => page.id === first) ?? 0;
    const at = spots.findIndex((spot) => spot.part === own?.id && spot.index === index);
    setCarried({ pages: new Set(pages), spots, at: Math.max(0, at) });
    setWords(t('bench.pickedUpArrowsMoveEnter', { pages: count(pages.length, 'page') }));
  };

  const onKeyDown = (event: KeyboardEvent): boolean => {
    if (event.ctrlKey || event.metaKey || event.altKey) return false;
    if (!carried) {
      if (event.key !== PICK_UP) return false;
      pickUp();
      return true;
    }
    const moves: Record<string, number> = {
      ArrowLeft: carried.at - 1,
      ArrowRight: carried.at + 1,
      ArrowUp: carried.at - ROW_JUMP,
      ArrowDown: carried.at + ROW_JUMP,
      PageUp: carried.at - SCREEN_JUMP,
      PageDown: carried.at + SCREEN_JUMP,
      Home: 0,
      End: carried.spots.length - 1,
    };
    const to = moves[event.key];
    const spot = carried.spots[carried.at];
    if (to !== undefined) go(carried, to);
    else if ((event.key === 'Enter' || event.key === PICK_UP) && spot) {
      onDrop(carried.pages, spot);
      setWords(
        t('bench.droppedAt', {
          pages: count(carried.pages.size, 'page'),
          whereWords: whereWords(packet, spot),
        }),
      );
      setCarried(undefined);
    } else if (event.key === 'Escape') {
      setWords(t('bench.putPagesBack', { pages: count(carried.pages.size, 'page') }));
      setCarried(undefined);
    }
    return true;
  };

  const spot = carried?.spots[carried.at];
  return {
    carried: carried?.pages,
    landing: spot && landingBefore(rows, spot.part, spot.index),
    words,
    onKeyDown,
  };
}

function whereWords(packet: Packet, spot: Spot | undefined): string {
  const part = packet.parts.find((p) => p.id === spot?.part);
  const page = part?.pages[spot?.index ?? 0];
  return page
    ? t('bench.beforePageIn', { number: page.number, title: part?.title ?? '' })
    : t('bench.atTheEndOf', { title: part?.title ?? '' });
}

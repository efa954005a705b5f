import { useEffect, useReducer } from 'react';
import { keepPresent, nothingSelected, select, type Selection, type SelectionChange } from './selection';

interface State {
  selection: Selection;
  order: readonly string[];
}

type Change = SelectionChange | { kind: 'order'; order: readonly string[] };

function reduce(state: State, change: Change): State {
  if (change.kind === 'order') {
    return { selection: keepPresent(state.selection, change.order, state.order), order: change.order };
  }
  return { ...state, selection: select(state.selection, change, state.order) };
}

/** The selections that were left behind when the user went to another view, by packet. */
const left = new Map<string, State>();

/** The selection of a packet that is opened at a page, with several selected that have commas between them, or else as it was left, or at its first page. */
function opened(packet: string, page: string | null, order: readonly string[]): State {
  const before = left.get(packet);
  const kept = before ? keepPresent(before.selection, order, before.order) : nothingSelected;
  const named = (page ?? '').split(',').filter((id) => order.includes(id));
  const focus = named[0] ?? kept.focus;
  const pages = new Set(named.length > 1 ? named : []);
  const selection = focus === kept.focus && pages.size === 0 ? kept : { pages, focus, anchor: focus };
  return { selection: keepPresent(selection, order, order), order };
}

/** The selection of a packet's pages, which are given in their order. */
export function useSelection(packet: string, order: readonly string[], page: string | null) {
  const [state, change] = useReducer(reduce, undefined, () => opened(packet, page, order));
  useEffect(() => change({ kind: 'order', order }), [order]);
  useEffect(() => {
    left.set(packet, state);
  }, [packet, state]);
  return [state.selection, change as (change: SelectionChange) => void] as const;
}

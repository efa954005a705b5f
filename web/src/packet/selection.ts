/** Which pages are selected, which one has the focus, and where a Shift-selection began. */
export interface Selection {
  pages: ReadonlySet<string>;
  focus?: string;
  anchor?: string;
}

export const nothingSelected: Selection = { pages: new Set() };

export type SelectionChange =
  | { kind: 'only'; page: string }
  | { kind: 'toggle'; page: string }
  | { kind: 'extend'; page: string }
  | { kind: 'focus'; page: string }
  | { kind: 'set'; pages: Iterable<string> }
  | { kind: 'clear' };

/** The selection after a change. Order is all pages as they stand, for runs. */
export function select(selection: Selection, change: SelectionChange, order: readonly string[]): Selection {
  switch (change.kind) {
    case 'only':
      return { pages: new Set([change.page]), focus: change.page, anchor: change.page };
    case 'toggle': {
      const pages = new Set(selection.pages);
      if (!pages.delete(change.page)) pages.add(change.page);
      return { pages, focus: change.page, anchor: change.page };
    }
    case 'extend': {
      const anchor = selection.anchor ?? selection.focus ?? change.page;
      return { pages: new Set(run(order, anchor, change.page)), focus: change.page, anchor };
    }
    case 'focus':
      return { ...selection, focus: change.page, anchor: change.page };
    case 'set': {
      const pages = new Set(change.pages);
      const last = order.findLast((id) => pages.has(id));
      return { pages, focus: last ?? selection.focus, anchor: selection.anchor };
    }
    case 'clear':
      return { pages: new Set(), focus: selection.focus, anchor: selection.focus };
  }
}

/**
 * The selection without pages that are no longer there. The focus goes to the page now in its place; at first it is on
 * the first page.
 */
export function keepPresent(
  selection: Selection,
  order: readonly string[],
  before: readonly string[],
): Selection {
  const present = new Set(order);
  const pages = new Set([...selection.pages].filter((id) => present.has(id)));
  const focus = nearest(selection.focus, present, before) ?? order[0];
  const anchor = selection.anchor && present.has(selection.anchor) ? selection.anchor : focus;
  const unchanged =
    pages.size === selection.pages.size && focus === selection.focus && anchor === selection.anchor;
  return unchanged ? selection : { pages, focus, anchor };
}

function nearest(id: string | undefined, present: ReadonlySet<string>, before: readonly string[]) {
  if (id === undefined || present.has(id)) return id;
  const at = before.indexOf(id);
  return (
    before.slice(at + 1).find((other) => present.has(other)) ??
    before.slice(0, at).findLast((other) => present.has(other))
  );
}

function run(order: readonly string[], from: string, to: string): string[] {
  const a = order.indexOf(from);
  const b = order.indexOf(to);
  if (a < 0 || b < 0) return [to];
  return order.slice(Math.min(a, b), Math.max(a, b) + 1);
}

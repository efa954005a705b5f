/** Something that can be done, as menus, the palette and the list of keys show it. */
export interface Act {
  id: string;
  name: string;
  group: ActGroup;
  /** The keys that do it from the wall, in words. */
  keys?: string;
  /** What must be selected for it. */
  needs?: 'pages' | 'two pages' | 'several pages';
  run: () => void;
}

export type ActGroup =
  'Turn and flip' | 'Move and order' | 'Insert' | 'Keep' | 'Correct' | 'Parts' | 'Look' | 'Select' | 'Packet';

/** The groups of acts on pages, in the order of the menus. */
export const PAGE_GROUPS: ActGroup[] = [
  'Look',
  'Turn and flip',
  'Move and order',
  'Insert',
  'Keep',
  'Correct',
  'Parts',
];

/** Whether an act can be done with so many pages selected. */
export function canDo(act: Act, pages: number): boolean {
  switch (act.needs) {
    case 'pages':
      return pages > 0;
    case 'two pages':
      return pages === 2;
    case 'several pages':
      return pages > 1;
    default:
      return true;
  }
}

import type { Command, Finding, Packet } from '../../api/client';
import type { Place } from '../../packet/place';
import type { Selection, SelectionChange } from '../../packet/selection';
import type { BenchDialog } from '../dialogs/BenchDialogs';
import type { Key } from './keys';
import { t } from '../../words';

/** A command that is for pages. */
export type PageCommand = Extract<Command, { pages?: unknown }>;

/** What acts are done with: the packet and the selection as they are when the act is done, and the bench. */
export interface ActContext {
  packet: () => Packet;
  selection: () => Selection;
  /** The selected pages, or the one in focus, in order. */
  chosen: () => string[];
  /** The part of the first of these pages. */
  partInFocus: () => string | undefined;
  act: (commands: Command[]) => void;
  /** Carries a command out on the chosen pages, if there are any. */
  onPages: (command: PageCommand) => void;
  travel: (kind: 'undo' | 'redo') => void;
  change: (change: SelectionChange) => void;
  /** Asks a question first. */
  ask: (dialog: BenchDialog) => void;
  /** Asks for files for a place. */
  insert: (place: Place) => void;
  lookClosely: (pages: string[]) => void;
  /** Shows the two pages of a finding side by side, with what is different about them. */
  compare: (finding: Finding) => void;
  saveCopy: (pages: string[]) => void;
  /** Copies or cuts the chosen pages. */
  take: (how: 'copy' | 'cut') => void;
  /** Puts the pages that were copied or cut after the chosen ones. */
  paste: () => void;
  show: (panel: BenchPanel) => void;
  /** Opens the bar in which something is searched on all pages. */
  find: () => void;
  /** Opens a view of the packet, by its address after the packet's. */
  open: (view: string) => void;
  openGuide: () => void;
}

/** What opens beside or above the bench. */
export type BenchPanel = 'history' | 'keys' | 'setAside' | 'camera' | 'text' | 'requirements' | 'receiver';

/** Something that can be done on the bench. Menus, bars, the palette and the keys all take it from the registry. */
export interface Act {
  id: string;
  name: string;
  /** On a button, where the name is too long. */
  short?: string;
  /** What people type to find it, besides its name. */
  typed?: string;
  group: ActGroup;
  /** The keys that do it; menus show the first. */
  keys?: readonly Key[];
  /** The browser tells of its key by an event of its own. */
  isNative?: boolean;
  /** What it needs to be selected. */
  needs?: 'pages' | 'two pages' | 'several pages';
  run: (bench: ActContext) => void;
}

export const ACT_GROUPS = [
  'look',
  'turn',
  'order',
  'insert',
  'keep',
  'correct',
  'parts',
  'select',
  'packet',
] as const;

export type ActGroup = (typeof ACT_GROUPS)[number];

/** The groups of acts on pages, in the order of the menus. */
export const PAGE_GROUPS = ACT_GROUPS.slice(0, ACT_GROUPS.indexOf('select'));

export const groupNames: Record<ActGroup, string> = {
  look: t('acts.groupLook'),
  turn: t('acts.groupTurn'),
  order: t('acts.groupOrder'),
  insert: t('acts.groupInsert'),
  keep: t('acts.groupKeep'),
  correct: t('acts.groupCorrect'),
  parts: t('acts.groupParts'),
  select: t('acts.groupSelect'),
  packet: t('acts.groupPacket'),
};

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

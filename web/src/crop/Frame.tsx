import { SegmentedControl } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import type { ReactNode } from 'react';
import { useLocation } from 'wouter';
import type { Packet } from '../api/client';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import classes from './CropView.module.css';
import { MODES, useMode } from './useMode';
import { t } from '../words';

interface Props {
  packet: Packet;
  status: string;
  /** Where Escape leads. */
  back: string;
  /** What the header offers. */
  acts?: ReactNode;
  /** The sheet that the work is done on. */
  sheet: ReactNode;
  /** What stands below it. */
  bar?: ReactNode;
  /** What the work is set by. */
  children: ReactNode;
}

/** Whether what is typed goes into an element: Escape ends that. */
const isTypedIn = (target: EventTarget | null) =>
  target instanceof Element && target.matches('input:not([type="radio"], [type="checkbox"]), textarea');

/** The view's frame: a sheet, and a panel with what is done to the pages on it. */
export function Frame({ packet, status, back, acts, sheet, bar, children }: Props) {
  const [mode, setMode] = useMode();
  const [, navigate] = useLocation();
  const leave = (event: KeyboardEvent) => {
    if (!isTypedIn(event.target)) navigate(back);
  };
  useHotkeys([['Escape', leave]], []); // also from a choice
  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
        <span className="soft">{status}</span>
        {acts}
      </Header>
      <main className={classes.work}>
        {sheet}
        {bar && <div className={classes.bar}>{bar}</div>}
        <aside className={classes.panel} aria-label={t('crop.whatIsDoneToThe')}>
          <SegmentedControl
            fullWidth
            aria-label={t('crop.whatIsDoneToThe')}
            data={MODES}
            value={mode}
            onChange={(value) => setMode(value)}
          />
          {children}
        </aside>
      </main>
    </div>
  );
}

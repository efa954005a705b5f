import { Button, NumberInput } from '@mantine/core';
import { useState } from 'react';
import type { Page } from '../api/client';
import { count } from '../shared/format';
import classes from './Crop.module.css';

interface Props {
  pages: readonly Page[];
  /** Degrees clockwise, as the pages stand. */
  onStraighten: (angle: number) => void;
}

const STEEPEST = 15;

/** Turns the content of pages by a little, until it stands level; the paper stays. */
export function Straighten({ pages, onStraighten }: Props) {
  const [draft, setDraft] = useState<number | string>();
  const now = angleOf(pages[0]);
  const angle = draft === undefined ? now : Number.parseFloat(String(draft));
  const finish = () => {
    if (Number.isFinite(angle) && angle !== now) onStraighten(angle);
    setDraft(undefined);
  };
  return (
    <section aria-label="Straighten">
      <h2>Straighten</h2>
      <form
        className={classes.pair}
        onSubmit={(event) => {
          event.preventDefault();
          finish();
        }}
      >
        <NumberInput
          aria-label="Degrees clockwise"
          value={draft ?? now}
          suffix="°"
          decimalScale={1}
          step={0.1}
          min={-STEEPEST}
          max={STEEPEST}
          onChange={setDraft}
        />
        <Button type="submit" disabled={draft === undefined || angle === now}>
          Turn {count(pages.length, 'page')}
        </Button>
      </form>
    </section>
  );
}

/** A page's angle as it stands: a mirrored page is turned the other way. */
function angleOf(page: Page | undefined): number {
  const angle = page?.straighten ?? 0;
  return page?.mirror && angle !== 0 ? -angle : angle;
}

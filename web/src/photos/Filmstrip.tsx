import { useEffect, useRef } from 'react';
import type { Packet, Page } from '../api/client';
import { Thumbnail } from '../shared/Thumbnail';
import classes from './Filmstrip.module.css';
import { t } from '../words';

interface Props {
  packet: Packet;
  pages: Page[];
  current?: string;
  onPage: (index: number) => void;
}

/** The pictures of the pass, side by side. */
export function Filmstrip({ packet, pages, current, onPage }: Props) {
  const here = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // Newer browsers answer with a promise, which is no clean-up.
    void here.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [current]);
  return (
    <nav className={classes.strip} aria-label={t('photos.picturesOfThisPass')}>
      {pages.map((page, i) => (
        <button
          key={page.id}
          ref={page.id === current ? here : undefined}
          type="button"
          className={classes.picture}
          aria-current={page.id === current}
          aria-label={t('photos.picturePage', { i: i + 1, number: page.number })}
          onClick={() => onPage(i)}
        >
          <Thumbnail packet={packet} page={page} width={62} height={62} />
        </button>
      ))}
    </nav>
  );
}

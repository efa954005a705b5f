import { useElementSize, useMergedRef } from '@mantine/hooks';
import {
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import classes from './Divided.module.css';
import { t } from '../words';

interface Props {
  name: string;
  /** Pixels that the page is shown in. */
  width: number;
  height: number;
  before: string;
  /** None where the page is not changed. */
  after?: string;
  /** What lies over both. */
  over?: ReactNode;
}

const STEP = 0.02;
const LARGE_STEP = 0.1;

/** A page before, left of a line that can be moved, and after, right of it. Both move together. */
export function Divided({ name, width, height, before, after, over }: Props) {
  const window = useRef<HTMLDivElement>(null);
  const { ref, width: room, height: roomDown } = useElementSize<HTMLDivElement>();
  const [share, setShare] = useState(0.5);
  const [scrolled, setScrolled] = useState(0);
  const left = Math.max(0, (room - width) / 2);
  const cut = Math.max(0, Math.min(width, scrolled + share * room - left));

  // The middle of the page's width is shown, where its lines are.
  useLayoutEffect(() => {
    if (window.current) window.current.scrollLeft = (width - room) / 2;
  }, [width, room]);

  return (
    <div className={classes.frame}>
      <div
        ref={useMergedRef(window, ref)}
        className={classes.window}
        tabIndex={0}
        role="region"
        aria-label={t('export.beforeAndAfter', { name })}
        onScroll={(event) => setScrolled(event.currentTarget.scrollLeft)}
        onPointerDown={pan}
      >
        <div
          className={classes.sheet}
          style={{ width, height, marginLeft: left, marginTop: Math.max(0, (roomDown - height) / 2) }}
        >
          <Layer key={before} url={before} alt={t('export.before', { name })} />
          {after && (
            <Layer key={after} url={after} alt={t('export.after', { name })} clip={`inset(0 0 0 ${cut}px)`} />
          )}
          {over}
        </div>
      </div>
      {after ? (
        <>
          <span className={classes.before}>{t('export.beforeTitle')}</span>
          <span className={classes.after}>{t('export.afterTitle')}</span>
          <Line share={share} onShare={setShare} />
        </>
      ) : (
        <span className={classes.before}>{t('export.notChanged')}</span>
      )}
    </div>
  );
}

function Layer({ url, alt, clip }: { url: string; alt: string; clip?: string }) {
  const [state, setState] = useState<'busy' | 'shown' | 'failed'>('busy');
  return (
    <>
      <img
        src={url}
        alt={alt}
        draggable={false}
        data-state={state}
        style={{ clipPath: clip }}
        onLoad={() => setState('shown')}
        onError={() => setState('failed')}
      />
      {state === 'busy' && (
        <span className={classes.busy} data-after={clip ? true : undefined}>
          {t('export.beingDrawn')}
        </span>
      )}
      {state === 'failed' && (
        <span className={classes.busy} data-after={clip ? true : undefined} role="alert">
          {t('export.itCouldNotBeDrawn')}
        </span>
      )}
    </>
  );
}

function Line({ share, onShare }: { share: number; onShare: (share: number) => void }) {
  const keep = (value: number) => onShare(Math.max(0, Math.min(1, value)));
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.parentElement?.getBoundingClientRect();
    if (box) keep((event.clientX - box.left) / box.width);
  };
  const step = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP, PageDown: -LARGE_STEP, PageUp: LARGE_STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    keep(share + by);
  };
  return (
    <div
      className={classes.line}
      style={{ left: `${share * 100}%` }}
      role="slider"
      tabIndex={0}
      aria-label={t('export.dividerBetweenBeforeAndAfter')}
      aria-orientation="horizontal"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(share * 100)}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={drag}
      onKeyDown={step}
    >
      <span />
    </div>
  );
}

/** Moves what is seen by dragging the page. */
function pan(event: PointerEvent<HTMLDivElement>) {
  if (event.button !== 0 || event.pointerType !== 'mouse') return;
  const element = event.currentTarget;
  // Its scroll bars are its own.
  const box = element.getBoundingClientRect();
  if (event.clientX - box.left > element.clientWidth || event.clientY - box.top > element.clientHeight)
    return;
  element.setPointerCapture(event.pointerId);
  let last = { x: event.clientX, y: event.clientY };
  const onMove = (e: globalThis.PointerEvent) => {
    element.scrollBy(last.x - e.clientX, last.y - e.clientY);
    last = { x: e.clientX, y: e.clientY };
  };
  const onUp = () => {
    element.removeEventListener('pointermove', onMove);
    element.removeEventListener('pointerup', onUp);
  };
  element.addEventListener('pointermove', onMove);
  element.addEventListener('pointerup', onUp);
}

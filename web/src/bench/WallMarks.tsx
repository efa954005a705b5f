import classes from './Wall.module.css';
import type { Landing, Rect } from './wallLayout';

/** The line that shows where pages would land. */
export function LandingLine({ landing }: { landing: Landing | undefined }) {
  const line = landing?.line;
  if (!line) return null;
  return (
    <div
      className={classes.landing}
      data-testid="landing-line"
      style={{ left: line.x - 2, top: line.top - 4, height: line.height + 8 }}
    />
  );
}

/** The box that pages are selected by. */
export function Band({ rect }: { rect: Rect }) {
  const { left, top, right, bottom } = rect;
  return <div className={classes.band} style={{ left, top, width: right - left, height: bottom - top }} />;
}

import type { ReactNode } from 'react';
import classes from './Header.module.css';
import { Mark } from './Mark';

interface Props {
  title?: ReactNode;
  /** What is told of it. */
  facts?: ReactNode;
  children?: ReactNode;
}

/** The bar along the top of every view: mark, title, and the view's own acts at the right. */
export function Header({ title, facts, children }: Props) {
  return (
    <header className={classes.header}>
      <Mark />
      {title && (
        <>
          <span className="soft">/</span>
          <div className={classes.title}>{title}</div>
        </>
      )}
      {facts}
      <div className={classes.acts}>{children}</div>
    </header>
  );
}

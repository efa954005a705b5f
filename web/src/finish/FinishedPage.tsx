import { useElementSize } from '@mantine/hooks';
import type { Packet, Page } from '../api/client';
import { Pager } from '../shared/Pager';
import { PageMarks } from '../shared/PageMarks';
import { PageSheet } from '../shared/PageSheet';
import { Thumbnail } from '../shared/Thumbnail';
import { t } from '../words';
import { DragMarks } from './DragMarks';
import { examplesOf } from './examples';
import classes from './FinishView.module.css';
import type { Changed } from './sections';

interface Props {
  packet: Packet;
  pages: Page[];
  page: Page;
  /** The kinds of marks that are chosen. */
  chosen: readonly string[] | undefined;
  onShow: (page: string) => void;
  onChange: (changed: Changed) => void;
}

/** A page large, as it will be, with those beneath that differ from each other. */
export function FinishedPage({ packet, pages, page, chosen, onShow, onChange }: Props) {
  const { ref, width, height } = useElementSize();
  const step = (by: -1 | 1) => {
    const next = pages[page.number - 1 + by];
    if (next) onShow(next.id);
  };
  return (
    <>
      <div ref={ref} className={classes.large}>
        {width > 0 && (
          <PageSheet
            packet={packet}
            page={page}
            width={width}
            height={height}
            margin={20}
            over={(scale) => (
              <DragMarks packet={packet} page={page} chosen={chosen} scale={scale} onChange={onChange} />
            )}
          />
        )}
      </div>
      <div className={classes.strip}>
        <ul aria-label={t('finish.pagesThatDiffer')}>
          {examplesOf(pages).map(({ page: example, words }) => (
            <li key={example.id}>
              <button
                type="button"
                aria-current={example.id === page.id || undefined}
                onClick={() => onShow(example.id)}
              >
                <span className={classes.thumbnail}>
                  <Thumbnail packet={packet} page={example} width={74} height={74} />
                  <PageMarks packet={packet} page={example} />
                </span>
                <span>
                  {words}
                  <span className="hidden-text">{t('finish.examplePage', { number: example.number })}</span>
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className={classes.pager}>
          <Pager page={page} onStep={step} />
        </div>
      </div>
    </>
  );
}

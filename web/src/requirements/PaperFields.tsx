import { Button, Checkbox, CloseButton, TextInput } from '@mantine/core';
import type { Paper } from '../api/client';
import { t } from '../words';
import classes from './ReceiverForm.module.css';
import { Limit } from './RuleFields';

interface Props {
  papers: readonly Paper[];
  onChange: (papers?: Paper[]) => void;
}

/** The papers that are asked for, in the order in which they are wanted. */
export function PaperFields({ papers, onChange }: Props) {
  const change = (i: number, changed: Partial<Paper>) =>
    onChange(papers.map((paper, j) => (j === i ? { ...paper, ...changed } : paper)));
  return (
    <>
      <ol className={classes.papers}>
        {papers.map((paper, i) => (
          <li key={i} className={classes.paper}>
            <TextInput
              className={classes.paperTitle}
              label={t('requirements.paperTitle')}
              maxLength={200}
              value={paper.title}
              onChange={(event) => change(i, { title: event.currentTarget.value })}
            />
            <div className={classes.count}>
              <Limit
                label={t('requirements.paperLeast')}
                value={paper.least}
                onChange={(least) => change(i, { least })}
              />
            </div>
            <TextInput
              type="date"
              label={t('requirements.paperSince')}
              value={paper.since ?? ''}
              onChange={(event) => change(i, { since: event.currentTarget.value || undefined })}
            />
            <Checkbox
              mb={8}
              label={t('requirements.paperOptional')}
              checked={paper.optional ?? false}
              onChange={(event) => change(i, { optional: event.currentTarget.checked || undefined })}
            />
            <CloseButton
              mb={4}
              aria-label={t('requirements.removePaper', { paper: paper.title })}
              onClick={() => onChange(papers.length > 1 ? papers.filter((_, j) => j !== i) : undefined)}
            />
          </li>
        ))}
      </ol>
      <div>
        <Button size="compact-sm" onClick={() => onChange([...papers, { title: '' }])}>
          {t('requirements.addPaper')}
        </Button>
      </div>
    </>
  );
}

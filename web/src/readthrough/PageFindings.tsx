import { Button } from '@mantine/core';
import type { Command, Finding, Page } from '../api/client';
import { kindWords } from '../packet/findingGroups';
import classes from './PageFindings.module.css';
import { say, t } from '../words';

interface Props {
  page: Page;
  findings: readonly Finding[];
  onSettle: (commands: Command[]) => void;
  onAccept: (finding: Finding) => void;
}

/** What there is to check on the page that is read, and its note. */
export function PageFindings({ page, findings, onSettle, onAccept }: Props) {
  if (findings.length === 0 && !page.note) return null;
  return (
    <div className={classes.list} role="status">
      {findings.map((finding) => (
        <div key={finding.key} className={classes.finding}>
          <span>{say(finding.sentence)}</span>
          {finding.settle && kindWords[finding.kind].settle && (
            <Button size="compact-sm" onClick={() => onSettle(finding.settle ?? [])}>
              {kindWords[finding.kind].settle?.(1, [finding])}
            </Button>
          )}
          <Button size="compact-sm" variant="subtle" color="spruce" onClick={() => onAccept(finding)}>
            {kindWords[finding.kind].accept}
          </Button>
        </div>
      ))}
      {page.note && (
        <div className={classes.finding} data-note>
          <span>
            <b>{t('readthrough.note')}</b> {page.note}
          </span>
        </div>
      )}
    </div>
  );
}

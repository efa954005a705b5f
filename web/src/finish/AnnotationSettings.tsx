import { Radio, Stack } from '@mantine/core';
import type { Page } from '../api/client';
import {
  annotationChoice,
  ANNOTATION_CHOICES,
  isSamePolicy,
  type AnnotationPolicy,
} from '../packet/annotations';
import { t } from '../words';

interface Props {
  pages: readonly Page[];
  onChange: (policy: AnnotationPolicy) => void;
}

/** What becomes of form fields and comments of all pages; undefined where they differ. */
export function choiceOf(pages: readonly Page[]) {
  const [first] = pages;
  if (!first || !pages.every(({ annotations }) => isSamePolicy(annotations, first.annotations)))
    return undefined;
  return annotationChoice(first.annotations);
}

/** Chooses what becomes of the form fields and comments of all pages. */
export function AnnotationSettings({ pages, onChange }: Props) {
  const chosen = choiceOf(pages)?.id ?? null;
  return (
    <>
      <Radio.Group
        aria-label={t('annotations.label')}
        value={chosen}
        onChange={(id) => {
          const choice = ANNOTATION_CHOICES.find((other) => other.id === id);
          if (choice) onChange(choice.policy);
        }}
      >
        <Stack gap={10}>
          {ANNOTATION_CHOICES.map(({ id, name }) => (
            <Radio key={id} value={id} label={name} />
          ))}
        </Stack>
      </Radio.Group>
      <p className="soft">{chosen ? t('finish.forAllPages') : t('finish.pagesDiffer')}</p>
      <p className="soft">{t('finish.neverTravels')}</p>
    </>
  );
}

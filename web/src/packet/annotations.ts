import type { components } from '../api/schema';
import { t } from '../words';

/** What becomes of form fields and comments of a page. */
export type AnnotationPolicy = components['schemas']['Policy'];

/** The choices that are offered. */
export const ANNOTATION_CHOICES: { id: string; name: string; policy: AnnotationPolicy }[] = [
  { id: 'kept', name: t('annotations.kept'), policy: {} },
  { id: 'values', name: t('annotations.values'), policy: { fields: 'fixed', comments: 'leftOut' } },
  { id: 'fixed', name: t('annotations.fixed'), policy: { fields: 'fixed', comments: 'fixed' } },
  { id: 'left-out', name: t('annotations.leftOut'), policy: { fields: 'leftOut', comments: 'leftOut' } },
];

const isKept = ({ fields, comments }: AnnotationPolicy) => !fields && !comments;

/** What is done with the annotations of a page in words, or undefined where they are kept. */
export function annotationWords(policy: AnnotationPolicy): string | undefined {
  if (isKept(policy)) return undefined;
  const choice = ANNOTATION_CHOICES.find(
    (other) => other.policy.fields === policy.fields && other.policy.comments === policy.comments,
  );
  return (choice?.name ?? t('annotations.otherwise')).toLowerCase();
}

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

/** The choice that a policy is; undefined for one that is not offered. */
export const annotationChoice = (policy: AnnotationPolicy) =>
  ANNOTATION_CHOICES.find(({ policy: offered }) => isSamePolicy(offered, policy));

/** Whether two policies say the same; what is missing is kept. */
export const isSamePolicy = (a: AnnotationPolicy, b: AnnotationPolicy) =>
  (a.fields ?? '') === (b.fields ?? '') && (a.comments ?? '') === (b.comments ?? '');

const isKept = ({ fields, comments }: AnnotationPolicy) => !fields && !comments;

/** What is done with the annotations of a page in words, or undefined where they are kept. */
export function annotationWords(policy: AnnotationPolicy): string | undefined {
  if (isKept(policy)) return undefined;
  return (annotationChoice(policy)?.name ?? t('annotations.otherwise')).toLowerCase();
}

import { t } from '../words';

/** Where across a page a text can be. */
export const SIDES = [
  { value: 'left', label: t('finish.left') },
  { value: 'middle', label: t('finish.middle') },
  { value: 'right', label: t('finish.right') },
  { value: 'outer', label: t('finish.outer') },
];

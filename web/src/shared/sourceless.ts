import type { Page } from '../api/client';
import { t } from '../words';

const WORDS = {
  cover: t('shared.coverPage'),
  contents: t('shared.contentsPage'),
  sheet: t('shared.partSheet'),
};

/** What a page is that is of no source: blank, or one that the program makes. */
export const sourcelessWords = ({ made }: Page): string => (made ? WORDS[made] : t('shared.blank'));

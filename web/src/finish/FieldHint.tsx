import rules from '../api/rules.json';
import { t } from '../words';
import classes from './FinishView.module.css';

interface Props {
  /** The texts are on pages, which have fields of their own. */
  onPages?: boolean;
  also?: string;
}

/** Which fields texts may have. */
export function FieldHint({ onPages = false, also }: Props) {
  const fields = onPages ? [...rules.pageFields, ...rules.documentFields] : rules.documentFields;
  return (
    <details className={classes.fields}>
      <summary>{t('finish.fieldsInTexts')}</summary>
      <p className="soft">
        {t('finish.fieldsAre', { fields: fields.map((field) => `{${field}}`).join(' ') })} {also}
      </p>
    </details>
  );
}

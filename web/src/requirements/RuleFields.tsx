import { Checkbox, NumberInput, Select, TextInput } from '@mantine/core';
import type { Rules } from '../api/client';
import papers from '../api/rules.json';
import { t } from '../words';
import classes from './ReceiverForm.module.css';
import { propertyWords, SWITCHES, switchWords } from './rules';

interface Props {
  rules: Rules;
  onChange: (changed: Partial<Rules>) => void;
}

const BYTES_PER_MB = 1_000_000;

/** Limits that are numbers. */
export function NumberRules({ rules, onChange }: Props) {
  return (
    <div className={classes.fields}>
      <Limit
        label={t('requirements.fileBytes')}
        suffix=" MB"
        decimals={2}
        value={rules.fileBytes && rules.fileBytes / BYTES_PER_MB}
        onChange={(mb) => onChange({ fileBytes: mb && Math.round(mb * BYTES_PER_MB) })}
      />
      <Limit
        label={t('requirements.totalBytes')}
        suffix=" MB"
        decimals={2}
        value={rules.totalBytes && rules.totalBytes / BYTES_PER_MB}
        onChange={(mb) => onChange({ totalBytes: mb && Math.round(mb * BYTES_PER_MB) })}
      />
      <Limit
        label={t('requirements.leastPages')}
        value={rules.leastPages}
        onChange={(leastPages) => onChange({ leastPages })}
      />
      <Limit
        label={t('requirements.mostPages')}
        value={rules.mostPages}
        onChange={(mostPages) => onChange({ mostPages })}
      />
      <Limit
        label={t('requirements.leastDPI')}
        suffix=" dpi"
        value={rules.leastDPI}
        onChange={(leastDPI) => onChange({ leastDPI })}
      />
      <Limit
        label={t('requirements.mostDPI')}
        suffix=" dpi"
        value={rules.mostDPI}
        onChange={(mostDPI) => onChange({ mostDPI })}
      />
    </div>
  );
}

interface LimitProps {
  label: string;
  value?: number;
  suffix?: string;
  decimals?: number;
  onChange: (value?: number) => void;
}

/** A number, or nothing. */
export function Limit({ label, value, suffix, decimals = 0, onChange }: LimitProps) {
  return (
    <NumberInput
      label={label}
      value={value ?? ''}
      min={0}
      decimalScale={decimals}
      suffix={suffix}
      hideControls
      onChange={(typed) => onChange(typed === '' || Number(typed) === 0 ? undefined : Number(typed))}
    />
  );
}

const FILES = [
  { value: 'one', label: t('requirements.oneFile') },
  { value: 'perPart', label: t('requirements.filePerPart') },
];
const COLOURS = [
  { value: 'grey', label: t('requirements.grey') },
  { value: 'blackWhite', label: t('requirements.blackWhite') },
];
const PASSWORDS = [
  { value: 'none', label: t('requirements.noPassword') },
  { value: 'required', label: t('requirements.passwordRequired') },
];
const VERSIONS = ['1.3', '1.4', '1.5', '1.6', '1.7', '2.0'];

/** Rules of which one is chosen, and the papers that pages may have. */
export function ChoiceRules({ rules, onChange }: Props) {
  return (
    <>
      <div className={classes.fields}>
        <Choice
          label={t('requirements.files')}
          data={FILES}
          value={rules.files}
          onChange={(files) => onChange({ files })}
        />
        <Choice
          label={t('requirements.colours')}
          data={COLOURS}
          value={rules.colours}
          onChange={(colours) => onChange({ colours })}
        />
        <Choice
          label={t('requirements.password')}
          data={PASSWORDS}
          value={rules.password}
          onChange={(password) => onChange({ password })}
        />
        <Choice
          label={t('requirements.version')}
          data={VERSIONS.map((version) => ({ value: version, label: `PDF ${version}` }))}
          value={rules.version}
          onChange={(version) => onChange({ version })}
        />
      </div>
      <Checkbox.Group
        label={t('requirements.sizes')}
        value={rules.sizes ?? []}
        onChange={(sizes) => onChange({ sizes: sizes.length > 0 ? sizes : undefined })}
      >
        <div className={classes.fields}>
          {papers.papers.map(({ name }) => (
            <Checkbox key={name} value={name} label={name} />
          ))}
        </div>
      </Checkbox.Group>
    </>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  data: { value: string; label: string }[];
  value?: T;
  onChange: (value?: T) => void;
}

function Choice<T extends string>({ label, data, value, onChange }: ChoiceProps<T>) {
  return (
    <Select
      label={label}
      data={data}
      placeholder={t('requirements.any')}
      value={value ?? null}
      clearable
      comboboxProps={{ withinPortal: true }}
      onChange={(chosen) => onChange((chosen as T | null) ?? undefined)}
    />
  );
}

/** Rules that are on or off. */
export function Switches({ rules, onChange, group }: Props & { group: keyof typeof SWITCHES }) {
  return (
    <div className={classes.fields}>
      {SWITCHES[group].map((rule) => (
        <Checkbox
          key={rule}
          label={switchWords[rule]}
          checked={rules[rule] ?? false}
          onChange={(event) => onChange({ [rule]: event.currentTarget.checked || undefined })}
        />
      ))}
    </div>
  );
}

/** How files are named, and which properties are filled in. */
export function NameRules({ rules, onChange }: Props) {
  return (
    <>
      <div className={classes.fields}>
        <TextInput
          label={t('requirements.fileName')}
          description={t('requirements.fileNameFields')}
          placeholder={t('requirements.any')}
          maxLength={200}
          value={rules.fileName ?? ''}
          onChange={(event) => onChange({ fileName: event.currentTarget.value || undefined })}
        />
        <Limit
          label={t('requirements.longestName')}
          value={rules.longestName}
          onChange={(longestName) => onChange({ longestName })}
        />
      </div>
      <Checkbox
        label={t('requirements.plainName')}
        checked={rules.plainName ?? false}
        onChange={(event) => onChange({ plainName: event.currentTarget.checked || undefined })}
      />
      <Checkbox.Group
        label={t('requirements.properties')}
        value={rules.properties ?? []}
        onChange={(properties) => onChange({ properties: properties.length > 0 ? properties : undefined })}
      >
        <div className={classes.fields}>
          {Object.entries(propertyWords).map(([name, words]) => (
            <Checkbox key={name} value={name} label={words} />
          ))}
        </div>
      </Checkbox.Group>
    </>
  );
}

import { Button, Group, Stack, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Receiver, Rules } from '../api/client';
import { DeliveryFields } from '../handin/DeliveryFields';
import { t } from '../words';
import { PaperFields } from './PaperFields';
import classes from './ReceiverForm.module.css';
import { ChoiceRules, NameRules, NumberRules, Switches } from './RuleFields';

interface Props {
  receiver: Receiver;
  isBusy: boolean;
  onSave: (receiver: Receiver) => void;
  onBack: () => void;
}

/** What a receiver asks for. What is left empty is no rule. */
export function ReceiverForm({ receiver, isBusy, onSave, onBack }: Props) {
  const [draft, setDraft] = useState(receiver);
  const change = (changed: Partial<Receiver>) => setDraft({ ...draft, ...changed });
  const changeRules = (changed: Partial<Rules>) => change({ rules: { ...draft.rules, ...changed } });
  const fields = { rules: draft.rules, onChange: changeRules };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onSave(draft);
      }}
    >
      <Stack gap={14}>
        <div className={classes.fields}>
          <TextInput
            label={t('requirements.name')}
            required
            maxLength={200}
            data-autofocus
            value={draft.name}
            onChange={(event) => change({ name: event.currentTarget.value })}
          />
          <TextInput
            type="date"
            label={t('requirements.until')}
            value={draft.until ?? ''}
            onChange={(event) => change({ until: event.currentTarget.value || undefined })}
          />
        </div>
        <div className={classes.scroll}>
          <fieldset className={classes.group}>
            <legend>{t('requirements.sizeAndPages')}</legend>
            <NumberRules {...fields} />
            <ChoiceRules {...fields} />
            <Switches {...fields} group="pages" />
          </fieldset>
          <fieldset className={classes.group}>
            <legend>{t('requirements.theDocument')}</legend>
            <Switches {...fields} group="document" />
            <Switches {...fields} group="without" />
            <NameRules {...fields} />
          </fieldset>
          <fieldset className={classes.group}>
            <legend>{t('requirements.papers')}</legend>
            <PaperFields papers={draft.papers ?? []} onChange={(papers) => change({ papers })} />
          </fieldset>
          <fieldset className={classes.group}>
            <legend>{t('handin.handingIn')}</legend>
            <DeliveryFields
              delivery={draft.delivery ?? { by: 'download' }}
              onChange={(delivery) => change({ delivery: delivery.by === 'download' ? undefined : delivery })}
            />
          </fieldset>
        </div>
        <p className="soft small">{t('requirements.keptForOthers')}</p>
        <Group justify="space-between">
          <Button onClick={onBack}>{t('requirements.back')}</Button>
          <Button type="submit" variant="filled" loading={isBusy} disabled={draft.name.trim() === ''}>
            {t('requirements.saveAndUse')}
          </Button>
        </Group>
      </Stack>
    </form>
  );
}

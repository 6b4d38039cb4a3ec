import type { BearerKindId } from '@tombolo/contract';
import { Controller, type Control } from 'react-hook-form';
import { consoleKind } from '../../bearers/registry';
import { CheckRow } from '../../ui/choice';
import { FormField } from '../../ui/form-field';
import { NAME, type BearerEntry, type BearerForm } from './bearer-form';

/** The lines and questions that a kind of bearer has, with its name in front. */
export function BearerFields({
  control,
  kind,
}: {
  control: Control<BearerForm, unknown, BearerEntry>;
  kind: BearerKindId;
}) {
  const { fields, switches = [] } = consoleKind(kind).form;
  return (
    <>
      {[NAME, ...fields].map(({ name, label, hint }) => (
        <FormField
          key={`${kind} ${name}`}
          control={control}
          name={`texts.${name}`}
          label={label}
          hint={hint}
          mono={name !== NAME.name}
        />
      ))}
      {switches.map(({ name, label, hint }) => (
        <Controller
          key={`${kind} ${name}`}
          control={control}
          name={`switches.${name}`}
          render={({ field: { value = false, onChange } }) => (
            <CheckRow label={label} hint={hint} checked={value} onChange={onChange} />
          )}
        />
      ))}
    </>
  );
}

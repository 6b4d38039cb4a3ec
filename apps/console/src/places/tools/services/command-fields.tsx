import { FIELD_KINDS } from '@tombolo/core';
import { Controller, type Control, type UseFormSetValue, type UseFormWatch } from 'react-hook-form';
import { Button } from '../../../ui/button';
import { Chips } from '../../../ui/chips';
import { CheckRow } from '../../../ui/choice';
import { FormField } from '../../../ui/form-field';
import { Stack } from '../../../ui/layout';
import { Heading } from '../../../ui/text';
import { fieldsFor, KIND_WORDS, type serviceForm, type ServiceForm as Form } from './written-service';

type FormControl = Control<Form, unknown, ReturnType<typeof serviceForm.parse>>;

interface CommandFieldsProps {
  control: FormControl;
  watch: UseFormWatch<Form>;
  setValue: UseFormSetValue<Form>;
  n: number;
  remove: (() => void) | null;
}

/** One command of a service: what it is called, what is sent, and each of its fields. */
export function CommandFields({ control, watch, setValue, n, remove }: CommandFieldsProps) {
  const at = `commands.${n}` as const;
  const fields = watch(`${at}.fields`);
  const number = n + 1;
  return (
    <Stack role="group" aria-label={`Command ${number}`} below={16}>
      <Heading level={2}>{`Command ${number}`}</Heading>
      <FormField control={control} name={`${at}.title`} label={`Title of command ${number}`} />
      <FormField
        control={control}
        name={`${at}.id`}
        label={`Short name of command ${number}`}
        mono
        autoCapitalize="none"
        hint="A small letter first, without blanks"
      />
      <Controller
        control={control}
        name={`${at}.template`}
        render={() => (
          <FormField
            control={control}
            name={`${at}.template`}
            label={`What is sent by command ${number}`}
            mono
            autoCapitalize="none"
            hint="Fields in braces, such as {to}: {text}. What stands in [brackets] is left out while its field is empty"
          />
        )}
      />
      <Stack align="start" below={12}>
        <Button
          title="Take its fields from this"
          about={`command ${number}`}
          kind="plain"
          onPress={() => setValue(`${at}.fields`, fieldsFor(watch(`${at}.template`), fields))}
        />
      </Stack>
      {fields.map((field, m) => (
        <Stack key={field.id} role="group" aria-label={`Field ${field.id} of command ${number}`} below={8}>
          <FormField control={control} name={`${at}.fields.${m}.title`} label={`{${field.id}} is called`} />
          {field.id === 'text' ? null : (
            <>
              <Controller
                control={control}
                name={`${at}.fields.${m}.kind`}
                render={({ field: { value, onChange } }) => (
                  <Chips
                    label={`{${field.id}} takes`}
                    options={FIELD_KINDS.filter((kind) => kind !== 'text').map((id) => ({
                      id: id as string,
                      title: KIND_WORDS[id],
                    }))}
                    value={value}
                    onChange={onChange}
                  />
                )}
              />
              <FormField
                control={control}
                name={`${at}.fields.${m}.offers`}
                label={`Offered for {${field.id}}`}
                hint="What is entered most, with commas between. May be left out"
              />
            </>
          )}
        </Stack>
      ))}
      <Switch
        control={control}
        name={`${at}.asksAcknowledgement`}
        label="Asking for an acknowledgement helps"
        number={number}
      />
      <Switch control={control} name={`${at}.positionFirst`} label="It uses where we were heard last" number={number} />
      <FormField
        control={control}
        name={`${at}.withinMin`}
        label={`Answer within, min, command ${number}`}
        mono
        inputMode="numeric"
      />
      <FormField
        control={control}
        name={`${at}.leftBy`}
        label={`Ended by, command ${number}`}
        mono
        autoCapitalize="none"
        hint="Short name of the command that ends what this begins. May be left out"
      />
      <FormField
        control={control}
        name={`${at}.cautions`}
        label={`Cautions of command ${number}`}
        multiline
        hint="One a line"
      />
      {remove ? (
        <Stack align="start">
          <Button title="Remove the command" about={String(number)} kind="plain" onPress={remove} />
        </Stack>
      ) : null}
    </Stack>
  );
}

const Switch = ({
  control,
  name,
  label,
  number,
}: {
  control: FormControl;
  name: `commands.${number}.${'asksAcknowledgement' | 'positionFirst'}`;
  label: string;
  number: number;
}) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange } }) => (
      <CheckRow label={`${label}, command ${number}`} checked={value} onChange={onChange} />
    )}
  />
);

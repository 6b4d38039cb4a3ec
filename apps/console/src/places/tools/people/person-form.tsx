import { zodResolver } from '@hookform/resolvers/zod';
import {
  ADDRESS_SORTS,
  addressesOf,
  personChange,
  type AddressSort,
  type Person,
  type PersonChange,
} from '@tombolo/contract';
import { Controller, useForm } from 'react-hook-form';
import { View } from 'react-native';
import { useMemo } from 'react';
import { z } from 'zod';
import { Button } from '../../../ui/button';
import { CheckRow } from '../../../ui/choice';
import { toFirstFault } from '../../../ui/faults';
import { FormField } from '../../../ui/form-field';
import { Row } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Heading } from '../../../ui/text';
import { readBroughtBy, writeBroughtBy } from './brought-by';

const SORTS: Readonly<Record<AddressSort, { label: string; hint?: string }>> = {
  call: { label: 'Call sign', hint: 'With SSID where it has one; for texts by packet radio' },
  phone: { label: 'Phone' },
  mail: { label: 'Mail' },
  node: { label: 'Mesh node', hint: 'Its tag, one to six letters or digits' },
  board: { label: 'Board', hint: 'Such as QT1NC@QT1BB-4' },
};

const texts = z.record(z.enum(ADDRESS_SORTS), z.string());
type Texts = z.output<typeof texts>;

/** Several of a sort stand in one field, with commas between. */
const addressesIn = (written: Texts) =>
  ADDRESS_SORTS.flatMap((sort) =>
    written[sort]
      .split(/[,;\n]+/)
      .map((address) => address.trim())
      .filter((address) => address !== '')
      .map((address) => ({ sort, address })),
  );

/** The form holds texts; the contract's schema judges them, and each complaint stands at its field. */
const formAmong = (others: readonly Person[]) =>
  z
    .object({ name: z.string(), licensed: z.boolean(), agreement: z.string(), texts, broughtBy: z.string() })
    .transform(({ name, licensed, agreement, texts: written, broughtBy }, context): PersonChange => {
      const addresses = addressesIn(written);
      const complain = (path: string[], message: string) => context.addIssue({ code: 'custom', path, message });
      const brought = readBroughtBy(broughtBy, others);
      const read = personChange.safeParse({
        name,
        licensed,
        agreement: agreement.replace(/\s+/g, ' '),
        addresses,
        broughtBy: brought.ok ? brought.value : [],
      });
      if (read.success && brought.ok) return read.data;
      if (!brought.ok) complain(['broughtBy'], brought.error.reason);
      for (const { path, message } of read.error?.issues ?? []) {
        const sort = path[0] === 'addresses' && typeof path[1] === 'number' ? addresses[path[1]]!.sort : null;
        complain(sort ? ['texts', sort] : [String(path[0])], message);
      }
      return z.NEVER;
    });
type Form = z.input<ReturnType<typeof formAmong>>;

const formOf = (person: Person | null, others: readonly Person[]): Form => ({
  name: person?.name ?? '',
  licensed: person?.licensed ?? false,
  agreement: person?.agreement ?? '',
  texts: Object.fromEntries(
    ADDRESS_SORTS.map((sort) => [sort, person ? addressesOf(person, sort).join(', ') : '']),
  ) as Texts,
  broughtBy: writeBroughtBy(person?.broughtBy ?? [], others),
});

interface PersonFormProps {
  /** Who is changed; null for somebody new. */
  person: Person | null;
  /** The whole list. */
  people: readonly Person[];
  busy: boolean;
  trouble: string | null;
  keep: (change: PersonChange) => void;
  leave?: () => void;
}

/** Somebody's name and all addresses. */
export function PersonForm({ person, people, busy, trouble, keep, leave }: PersonFormProps) {
  const others = useMemo(() => people.filter(({ id }) => id !== person?.id), [people, person?.id]);
  const { control, handleSubmit, formState } = useForm<Form, unknown, PersonChange>({
    resolver: zodResolver(formAmong(others)),
    defaultValues: formOf(person, others),
    mode: 'onTouched',
  });
  const submit = handleSubmit(keep, toFirstFault);
  const without = (formState.errors as { addresses?: { message?: string } }).addresses?.message;
  return (
    <View>
      <Heading level={2} above={20}>
        {person ? `Change ${person.name}` : 'Add somebody'}
      </Heading>
      <FormField control={control} name="name" label="Name" />
      {ADDRESS_SORTS.map((sort) => (
        <FormField
          key={sort}
          control={control}
          name={`texts.${sort}`}
          {...SORTS[sort]}
          mono={sort !== 'mail' && sort !== 'phone'}
          autoCapitalize="none"
        />
      ))}
      <Controller
        control={control}
        name="licensed"
        render={({ field: { value, onChange } }) => (
          <CheckRow
            label="Holds a licence"
            checked={value}
            onChange={onChange}
            hint="Items of people without one are third-party traffic on amateur bands."
          />
        )}
      />
      <FormField
        control={control}
        name="agreement"
        label="What was agreed"
        multiline
        hint="Who may write to them, by which way, since when. It is shown wherever somebody is about to."
      />
      <FormField
        control={control}
        name="broughtBy"
        label="Brought to them by hand, by"
        hint="Others of this list, each with about how many minutes it takes, such as Oskar Pellmund 20. A text can then go to them, with the name in front."
      />
      {without ? <Notice kind="alarm" title={without} /> : null}
      {trouble !== null ? (
        <Notice kind="alarm" title="Not saved">
          {trouble}
        </Notice>
      ) : null}
      <Row gap={8} above={8}>
        <Button title={person ? 'Save' : 'Add to the list'} busy={busy} onPress={() => void submit()} />
        {leave ? <Button title="Cancel" kind="plain" onPress={leave} /> : null}
      </Row>
    </View>
  );
}

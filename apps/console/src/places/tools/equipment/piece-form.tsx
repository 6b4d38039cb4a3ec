import { zodResolver } from '@hookform/resolvers/zod';
import type { KeptPieceView, PieceChange } from '@tombolo/contract';
import { ownersFor, type KeptPiece, type PieceKind } from '@tombolo/core';
import { Controller, useForm, useWatch, type Control } from 'react-hook-form';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { CheckRow, Choice } from '../../../ui/choice';
import { toFirstFault } from '../../../ui/faults';
import { FormField } from '../../../ui/form-field';
import { Row } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Heading } from '../../../ui/text';
import { PIECE_FIELDS, type PieceField } from './piece-fields';
import { isAsked, pieceForm, writtenOf } from './piece-written';
import { PIECE_KIND_WORDS } from './words';

type Values = Record<string, string | boolean>;

interface PieceFormProps {
  kind: PieceKind;
  /** What is changed; null for a new piece. */
  kept: KeptPieceView | null;
  pieces: readonly KeptPiece[];
  busy: boolean;
  trouble: string | null;
  keep: (piece: PieceChange) => void;
  leave: () => void;
}

/** What a piece of equipment is, by its properties. */
export function PieceForm({ kind, kept, pieces, busy, trouble, keep, leave }: PieceFormProps) {
  const { control, handleSubmit } = useForm<Values, unknown, PieceChange>({
    resolver: zodResolver(pieceForm(kind)),
    defaultValues: writtenOf(kind, kept),
    mode: 'onTouched',
  });
  const written = useWatch({ control });
  return (
    <View>
      <Heading level={2} above={20}>
        {kept ? `Change ${kept.name}` : `Add: ${PIECE_KIND_WORDS[kind].title}`}
      </Heading>
      {PIECE_FIELDS[kind]
        .filter((field) => isAsked(field, written as Values))
        .map((field) => (
          <Question key={field.key} field={field} control={control} owners={ownersFor(kind, pieces)} />
        ))}
      {trouble !== null ? (
        <Notice kind="alarm" title="Not saved">
          {trouble}
        </Notice>
      ) : null}
      <Row gap={8} above={8}>
        <Button title={kept ? 'Save' : 'Add it'} busy={busy} onPress={() => void handleSubmit(keep, toFirstFault)()} />
        <Button title="Cancel" kind="plain" onPress={leave} />
      </Row>
    </View>
  );
}

interface QuestionProps {
  field: PieceField;
  control: Control<Values, unknown, PieceChange>;
  owners: readonly KeptPiece[];
}

function Question({ field, control, owners }: QuestionProps) {
  const { key, label, hint } = field;
  if (field.sort === 'yes')
    return (
      <Controller
        control={control}
        name={key}
        render={({ field: { value, onChange } }) => (
          <CheckRow label={label} hint={hint} checked={value === true} onChange={onChange} />
        )}
      />
    );
  if (field.sort === 'one-of' || field.sort === 'number-of' || field.sort === 'owner') {
    const options =
      field.sort === 'owner'
        ? [...owners.map(({ id, name }) => ({ id, title: name })), { id: '', title: 'None of them' }]
        : field.options;
    return (
      <Controller
        control={control}
        name={key}
        render={({ field: { value, onChange } }) => (
          <Choice<string> label={label} options={options} value={String(value)} onChange={onChange} />
        )}
      />
    );
  }
  return (
    <FormField control={control} name={key} label={label} hint={hint} mono={key !== 'name'} autoCapitalize="none" />
  );
}

import { newBearer, type BearerConfig, type BearerKindId, type NewBearer } from '@tombolo/contract';
import { z } from 'zod';
import type { BearerField, Entry } from '../../bearers/kind';
import { consoleKind, consoleKinds } from '../../bearers/registry';

export const NAME: BearerField = { name: 'name', label: 'Name' };

/** What a field of the form is called in the configuration. */
const keyOf = ({ name, key = name }: BearerField): string => key;

/** The kinds are known when they are registered; a form field has the name that its kind gives it. */
export const bearerForm = z
  .object({
    kind: z.string().transform((kind) => kind as BearerKindId),
    over: z.string(),
    texts: z.record(z.string(), z.string()),
    switches: z.record(z.string(), z.boolean()),
  })
  .superRefine((values, context) => {
    const { fields } = consoleKind(values.kind).form;
    for (const { path, message } of newBearer.safeParse(bearerOf(values)).error?.issues ?? []) {
      const [root, key] = path;
      const field = root === 'config' ? fields.find((one) => keyOf(one) === key) : NAME;
      context.addIssue({ code: 'custom', path: ['texts', field?.name ?? NAME.name], message });
    }
  });
export type BearerForm = z.input<typeof bearerForm>;
export type BearerEntry = z.output<typeof bearerForm>;

/** What the form means; the contract's schema judges it. */
export function bearerOf({ kind, over, texts, switches }: BearerEntry): NewBearer {
  return { name: texts.name ?? '', config: consoleKind(kind).form.config({ over, texts, switches }) };
}

/** A form that nothing was entered into, for every kind. */
export const blankBearer = (): BearerForm => ({
  kind: consoleKinds()[0]!.id,
  over: '',
  texts: {
    name: '',
    ...Object.fromEntries(
      consoleKinds().flatMap(({ form: { fields } }) => fields.map(({ name, initial = '' }) => [name, initial])),
    ),
  },
  switches: Object.fromEntries(
    consoleKinds().flatMap(({ form: { switches = [] } }) => switches.map(({ name }) => [name, false])),
  ),
});

const textOf = (value: unknown): string =>
  Array.isArray(value) ? value.join(',') : value === null || value === undefined ? '' : String(value);

/** The form of a bearer as it is set now. Secrets never left the station: their fields are empty, and stay as they were when left so. */
export function formOfBearer({ name, config }: { name: string; config: BearerConfig }): BearerForm {
  const set = config as Readonly<Record<string, unknown>>;
  const { fields, switches = [] } = consoleKind(config.kind).form;
  return {
    kind: config.kind,
    over: textOf(set.over),
    texts: { name, ...Object.fromEntries(fields.map((field) => [field.name, textOf(set[keyOf(field)])])) },
    switches: Object.fromEntries(switches.map((one) => [one.name, set[one.name] === true])),
  };
}

/** The configuration with what the form says; what the form does not show stays as it is. */
export function changedConfig(before: BearerConfig, { kind, ...entry }: BearerEntry): BearerConfig {
  const { form } = consoleKind(kind);
  const told = form.config(entry satisfies Entry) as unknown as Readonly<Record<string, unknown>>;
  const keys = [...form.fields.map(keyOf), ...(form.switches ?? []).map(({ name }) => name)];
  return { ...before, ...Object.fromEntries(keys.map((key) => [key, told[key]])) } as BearerConfig;
}

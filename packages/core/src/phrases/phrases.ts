import { checkMessageText } from '../aprs/message';
import { fail, ok, type Parsed } from '../result';

/** What stands in braces in a phrase and is put in when the phrase is: the number is asked for. */
export const PHRASE_VARIABLES = ['call', 'locator', 'position', 'place', 'time', 'net', 'number'] as const;
export type PhraseVariable = (typeof PHRASE_VARIABLES)[number];

/** What is known when a phrase is put in; null for what is not. */
export type PhraseKnown = Readonly<Record<PhraseVariable, string | null>>;

const VARIABLE = /\{(\w+)\}/g;
const isVariable = (name: string): name is PhraseVariable => (PHRASE_VARIABLES as readonly string[]).includes(name);

/** Variables of a phrase, each once, in their order. */
export const variablesOf = (phrase: string): PhraseVariable[] => [
  ...new Set([...phrase.matchAll(VARIABLE)].flatMap(([, name]) => (isVariable(name!) ? [name] : []))),
];

/** A phrase that can be kept: its variables are known ones, and the rest can be sent. */
export function checkPhrase(phrase: string): Parsed<string> {
  const text = phrase.trim();
  if (text === '') return fail(0, 'it is empty');
  const strange = [...text.matchAll(VARIABLE)].find(([, name]) => !isVariable(name!));
  if (strange)
    return fail(
      strange.index,
      `nothing is known as {${strange[1]}}: there are ${PHRASE_VARIABLES.map((name) => `{${name}}`).join(', ')}`,
    );
  const checked = checkMessageText(text.replace(VARIABLE, '0'));
  return checked.ok ? ok(text) : checked;
}

/** A phrase with what is known put in; what is not known stays to be seen, and is named. */
export function fillPhrase(
  phrase: string,
  known: PhraseKnown,
): { readonly text: string; readonly missing: readonly PhraseVariable[] } {
  const missing = variablesOf(phrase).filter((name) => known[name] === null);
  const text = phrase.replace(VARIABLE, (whole, name: string) => (isVariable(name) ? (known[name] ?? whole) : whole));
  return { text, missing };
}

/** What closes what stands before it: no blank goes in between. */
const CLOSES = /^[.,;:!?)]/;

/** A text with a phrase behind it, with one blank between where one belongs. */
export function withPhrase(text: string, phrase: string): string {
  const before = text.trimEnd();
  const next = phrase.trim();
  if (before === '' || next === '') return before + next;
  return CLOSES.test(next) || before.endsWith('(') ? `${before}${next}` : `${before} ${next}`;
}

import { USUAL_ABBREVIATIONS, type Settings } from '@tombolo/contract';
import { counted, octetsOfText, shorten, splitText, transliterate } from '@tombolo/core';
import { View } from 'react-native';
import type { DraftView } from '../drafts/draft';
import { useDraft } from '../drafts/drafts';
import { Button } from '../ui/button';
import { CheckRow } from '../ui/choice';
import { Row, Stack } from '../ui/layout';
import { Link } from '../ui/link';
import { Body, Mono } from '../ui/text';
import { asItGoes } from './hand-over';

/** A text as it goes out: one, or as many as it takes. */
export interface Sent {
  readonly texts: readonly string[];
  /** Why it cannot; null when it can. */
  readonly problem: string | null;
}

/** What goes out of a draft by a way that takes so many octets; `check` says why a text cannot go. */
export function textsOf(
  { body, inParts }: Pick<DraftView, 'body' | 'inParts'>,
  mostOctets: number,
  check: (text: string) => { readonly ok: true } | { readonly ok: false; readonly error: { readonly reason: string } },
): Sent {
  const split = inParts && body.trim() !== '' ? splitText(body, 'a', mostOctets) : null;
  if (split && !split.ok) return { texts: [], problem: split.error.reason };
  const texts = split?.value ?? [body];
  for (const text of texts) {
    const checked = check(text);
    if (!checked.ok) return { texts: [], problem: checked.error.reason };
  }
  return { texts, problem: null };
}

interface LongTextProps {
  readonly settings: Pick<Settings, 'abbreviations'>;
  readonly mostOctets: number;
  /** Seconds of air time of one text, as this way sends it; null while that is not known. */
  readonly airS: (text: string) => number | null;
  /** What cannot be sent by this way as it stands. */
  readonly unplain: boolean;
}

/** What can be done about a text that does not fit, or has letters that not every set shows: each way out with what comes of it. */
export function LongText({ settings, mostOctets, airS, unplain }: LongTextProps) {
  const draft = useDraft();
  const { body, inParts } = draft;
  const plain = transliterate(body);
  const short = shorten(body, settings.abbreviations ?? USUAL_ABBREVIATIONS);
  const octetsWith = (text: string) => octetsOfText(asItGoes(draft, text)).length;
  const octets = octetsWith(body);
  const isLong = octets > mostOctets;
  if (!isLong && !(unplain && plain.text !== body)) return null;
  const split = splitText(asItGoes(draft, body), 'a', mostOctets);
  const parts = split.ok && split.value.length > 1 ? split.value : null;
  const use = (text: string) => draft.change({ body: text });
  return (
    <Stack role="group" aria-label="What can be done about it" gap={12} below={16}>
      {isLong ? (
        <CheckRow
          label={parts ? `Send it as ${counted(parts.length, 'text')}` : 'Send it as several texts'}
          checked={inParts}
          disabled={parts ? false : split.ok ? 'It fits one text.' : split.error.reason}
          onChange={(wanted) => draft.change({ inParts: wanted })}
          hint={parts ? costWords(parts, airS) : undefined}
        />
      ) : null}
      {parts && inParts && isLong ? (
        <View role="list" aria-label="As it goes out">
          {parts.map((part) => (
            <Stack key={part} role="listitem" cited="sand">
              <Mono>{part}</Mono>
              <Body soft>{`${octetsOfText(part).length} octets`}</Body>
            </Stack>
          ))}
        </View>
      ) : null}
      {unplain && plain.text !== body ? (
        <Proposal
          title="Use plain letters"
          text={plain.text}
          words={plainWords(plain.changed, plain.lost, octets, octetsWith(plain.text))}
          use={use}
        />
      ) : null}
      {isLong && short !== body ? (
        <Proposal
          title="Use the short form"
          text={short}
          words={`${octetsWith(short)} octets instead of ${octets}, by this station’s abbreviations.`}
          use={use}
        />
      ) : null}
      {isLong ? (
        <Row wrap gap={8} align="center">
          <Body soft>Mail and messages on boards take it whole.</Body>
          <Link href="/tools/phrases" minHeight={48} justify="center">
            <Body tone="tide">Abbreviations</Body>
          </Link>
        </Row>
      ) : null}
    </Stack>
  );
}

function Proposal({
  title,
  text,
  words,
  use,
}: {
  title: string;
  text: string;
  words: string;
  use: (text: string) => void;
}) {
  return (
    <Stack align="start" gap={4}>
      <Body soft>{words}</Body>
      <Mono>{text}</Mono>
      <Button title={title} kind="plain" onPress={() => use(text)} />
    </Stack>
  );
}

/** What the parts cost, and one that is lost. */
function costWords(parts: readonly string[], airS: (text: string) => number | null): string {
  const all = parts.map(airS);
  const again = airS(`again 1/${parts.length}a`);
  const known = all.filter((air) => air !== null);
  const numbered = 'Numbered, each acknowledged by itself.';
  if (known.length < all.length || again === null) return numbered;
  const sum = known.reduce((total, air) => total + air, 0);
  return `${numbered} ${sum.toFixed(1)} s on the air. A part that is lost costs up to ${(Math.max(...known) + again).toFixed(1)} s more: whoever knows the form asks for it, everybody else sees which number is missing.`;
}

function plainWords(
  changed: readonly { readonly from: string; readonly to: string }[],
  lost: readonly string[],
  octets: number,
  plainOctets: number,
): string {
  const stands = changed.slice(0, 8).map(({ from, to }) => `${from} as ${to.trim() || 'nothing'}`);
  return [
    `Not every set shows all of it. In plain letters it is ${plainOctets} octets instead of ${octets}`,
    stands.length > 0 ? `: ${stands.join(', ')}${changed.length > 8 ? ' and more' : ''}` : '',
    lost.length > 0 ? `; nothing stands for ${lost.slice(0, 8).join(' ')}` : '',
    '.',
  ].join('');
}

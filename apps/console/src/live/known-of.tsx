import { personKnownAs } from '@tombolo/contract';
import { Body } from '../ui/text';
import { usePeople, useStations } from './queries';
import { useTacticalName } from './tactical';

/**
 * What the operators themselves know of somebody, wherever their call, name or address appears: the tactical name (at an instant, for what
 * passed then), what was agreed, the note. Nothing where nothing is known.
 */
export function KnownOf({ who, at }: { who: string; at?: string }) {
  const call = who.trim().toUpperCase();
  const note = useStations().data?.find((station) => station.call === call)?.note ?? '';
  const person = personKnownAs(who, usePeople().data ?? []);
  const name = useTacticalName(call, at);
  const lines = [
    name && (at === undefined ? `${call} is ${name}` : `${call} was ${name} then`),
    person?.agreement && `Agreed with ${person.name}: ${person.agreement}`,
    note.trim() !== '' && `Your note on ${call}: ${note}`,
  ].filter((line): line is string => Boolean(line));
  return lines.map((line) => (
    <Body key={line} below={12}>
      {line}
    </Body>
  ));
}

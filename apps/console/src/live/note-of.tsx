import { Body } from '../ui/text';
import { useStations } from './queries';

/** The operator's own note on a station, wherever its call appears; nothing where there is none. */
export function NoteOf({ call }: { call: string }) {
  const note = useStations().data?.find((station) => station.call === call.trim().toUpperCase())?.note ?? '';
  if (note.trim() === '') return null;
  return <Body style={{ marginBottom: 12 }}>{`Your note on ${call.trim().toUpperCase()}: ${note}`}</Body>;
}

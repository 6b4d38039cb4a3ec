import { Button } from '../ui/button';

/** Leads from what is said of a station to all that is known of it. */
export const ShowStation = ({ call }: { call: string }) => (
  <Button title="Show the station" about={call} kind="plain" href={`/chart/station?call=${encodeURIComponent(call)}`} />
);

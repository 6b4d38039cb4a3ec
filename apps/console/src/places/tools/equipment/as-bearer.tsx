import { REGIONS, type Modem } from '@tombolo/core';
import type { BearerView, NewBearer, Settings } from '@tombolo/contract';
import { api } from '../../../live/api';
import { useBearers, useChange, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Body } from '../../../ui/text';

/** The bearer that a modem of the list makes: where it is, how it is keyed, on the packet channel of the region. */
export function bearerOfModem({ name, connection, txDelayMs }: Modem, region: Settings['region']): NewBearer {
  const { by, ...where } = connection;
  const keyed = { txDelayMs, frequencyMHz: REGIONS.find(({ id }) => id === region)?.packetMHz ?? null };
  return {
    name,
    config: { kind: by === 'serial' ? 'kiss-serial' : 'kiss-tcp', ...where, ...keyed } as NewBearer['config'],
  };
}

/** Whether a bearer is at the same place already. */
export const isAtModem = ({ config }: BearerView, { connection }: Pick<Modem, 'connection'>): boolean =>
  connection.by === 'serial'
    ? config.kind === 'kiss-serial' && config.device === connection.device
    : config.kind === 'kiss-tcp' && config.host === connection.host && config.port === connection.port;

/** One press from a modem of the list to a bearer that works it. */
export function AsBearer({ modem }: { modem: Modem }) {
  const bearers = useBearers();
  const settings = useSettings();
  const add = useChange(api.addBearer, ['bearers']);
  if (!bearers.data || !settings.data) return null;
  const there = bearers.data.find((bearer) => isAtModem(bearer, modem));
  if (there) return <Button title="Its bearer" about={there.name} kind="plain" href={`/bearers/${there.id}`} />;
  return (
    <>
      <Button
        title="Make it a bearer"
        about={modem.name}
        kind="plain"
        busy={add.isPending}
        onPress={() => add.mutate(bearerOfModem(modem, settings.data.region))}
      />
      {add.isError ? <Body role="alert">{add.error.message}</Body> : null}
    </>
  );
}

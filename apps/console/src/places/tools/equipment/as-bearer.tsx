import type { Modem } from '@tombolo/core';
import { configAtModem, isAtModem } from '../../../bearers/modem/at-modem';
import { api } from '../../../live/api';
import { useBearers, useChange, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Body } from '../../../ui/text';

/** One press from a modem of the list to a bearer that works it. */
export function AsBearer({ modem }: { modem: Modem }) {
  const bearers = useBearers();
  const settings = useSettings();
  const add = useChange(api.addBearer, ['bearers']);
  if (!bearers.data || !settings.data) return null;
  const there = bearers.data.find((bearer) => isAtModem(bearer, modem.connection));
  if (there) return <Button title="Its bearer" about={there.name} kind="plain" href={`/bearers/${there.id}`} />;
  return (
    <>
      <Button
        title="Make it a bearer"
        about={modem.name}
        kind="plain"
        busy={add.isPending}
        onPress={() =>
          add.mutate({
            name: modem.name,
            config: configAtModem(modem.connection, settings.data.region, modem.txDelayMs),
          })
        }
      />
      {add.isError ? <Body role="alert">{add.error.message}</Body> : null}
    </>
  );
}

import { sendsPackets } from '@tombolo/contract';
import { api } from '../../live/api';
import { useBearers, useChange } from '../../live/queries';
import { CheckRow } from '../../ui/choice';
import { Notice } from '../../ui/page';
import { Body } from '../../ui/text';
import { TCP_FIELDS, tcpAddress, tcpWords } from '../address-fields';
import type { ConsoleKind, OfBearer } from '../kind';

/** A feed alone never keys the radio: the operator says so, by naming the modem that answers for it. */
function FeedAnswers({ bearer, config }: OfBearer<'line-feed'>) {
  const bearers = useBearers();
  const modem = bearers.data?.find((other) => sendsPackets(other.config));
  const change = useChange(
    (answerOver: string | null) => api.changeBearer(bearer.id, { ...config, answerOver }),
    ['bearers'],
  );
  const over = bearers.data?.find(({ id }) => id === config.answerOver);
  return (
    <>
      <Body soft>
        {config.answerOver
          ? `What it brings is answered by radio, over ${over?.name ?? 'a modem that is not there any more'}.`
          : 'Only listened to: what it brings is never answered by radio.'}
      </Body>
      {modem ? (
        <CheckRow
          label={`Answer what it brings over ${modem.name}`}
          hint="Each text to you that it brings then keys the radio for an acknowledgement."
          checked={config.answerOver !== null && config.answerOver !== undefined}
          onChange={(wanted) => change.mutate(wanted ? modem.id : null)}
        />
      ) : null}
      {change.isError ? (
        <Notice kind="alarm" title="That did not work">
          {change.error.message}
        </Notice>
      ) : null}
    </>
  );
}

export const lineFeed: ConsoleKind<'line-feed'> = {
  id: 'line-feed',
  title: 'A feed of packets as text lines',
  hint: 'Only listened to.',
  words: 'Feed of text lines, ',
  where: tcpWords,
  form: { fields: TCP_FIELDS, config: (entry) => ({ kind: 'line-feed', ...tcpAddress(entry) }) },
  Details: FeedAnswers,
};

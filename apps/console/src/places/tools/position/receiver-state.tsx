import type { PositionNow } from '@tombolo/contract';
import { counted, metresInWords, RECEIVER_SILENT_S } from '@tombolo/core';
import { View } from 'react-native';
import { useDistanceUnit } from '../../../live/preferences';
import { Button } from '../../../ui/button';
import { Instant, useTimed } from '../../../ui/clock';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { age } from '../../../ui/time';

type ReceiverView = NonNullable<PositionNow['receiver']>;

/** More, and stamps of others do not compare with ours. */
const MOST_OFF_S = 2;

/** How the clocks compare, where that is worth a word. */
export function clockWords(aheadS: number): string {
  const off = Math.abs(aheadS);
  if (off <= MOST_OFF_S) return 'Its clock agrees with ours.';
  const words =
    off < 120 ? `${Math.round(off)} s` : off < 7200 ? `${Math.round(off / 60)} min` : `${Math.round(off / 3600)} h`;
  return `Its clock is ${words} ${aheadS > 0 ? 'ahead of' : 'behind'} ours. Times in the log are by ours, and stay so.`;
}

/** Dilution in words (common practice, no source). */
const dilutionWords = (hdop: number): string =>
  `dilution ${hdop.toFixed(1)}, ${hdop <= 2 ? 'good' : hdop <= 5 ? 'fair' : 'poor'}`;

/** What the receiver says, and how good it is. */
export function ReceiverState({ receiver }: { receiver: ReceiverView }) {
  const { link, reason, read, wrong, lastWrong, fix, fresh, lostAt, clockAheadS, silentS } = receiver;
  const unit = useDistanceUnit();
  const fixAge = useTimed((now) => (fix ? age(fix.receivedAt, now) : ''));
  if (link !== 'up')
    return (
      <Notice kind="alarm" title="The receiver is not there">
        <Body>{reason ?? 'It is being connected.'}</Body>
        <Button
          title="Ready check: my position is not shown"
          kind="plain"
          href="/tools/ready?symptom=position-not-shown"
        />
      </Notice>
    );
  const quality = fix
    ? [
        ...(fix.satellites === null ? [] : [counted(fix.satellites, 'satellite')]),
        ...(fix.hdop === null ? [] : [dilutionWords(fix.hdop)]),
        ...(fix.altitudeM === null ? [] : [`${metresInWords(fix.altitudeM, unit)} above the sea`]),
      ]
    : [];
  return (
    <View aria-live="polite">
      {fresh ? (
        <Body bold>{`Fix, ${fixAge} old${quality.length > 0 ? `: ${quality.join(', ')}` : ''}`}</Body>
      ) : (
        <Notice kind="alarm" title={fix ? 'The fix is lost' : 'No fix yet'}>
          <Body>
            {lostAt ? (
              <>
                {'Since '}
                <Instant iso={lostAt} />
                {'. Nothing is sent from where we were.'}
              </>
            ) : silentS !== null && silentS >= RECEIVER_SILENT_S ? (
              `Not one octet has come over its line for ${silentS} s: it may be off or unplugged, or its transmit and receive lines are swapped.`
            ) : read === 0 ? (
              'Nothing has come from it yet.'
            ) : (
              'It talks, and does not know yet where it is. Under open sky that takes some minutes.'
            )}
          </Body>
        </Notice>
      )}
      {clockAheadS === null ? null : <Body soft>{clockWords(clockAheadS)}</Body>}
      {wrong > 0 ? (
        <Body soft>{`${counted(wrong, 'line')} of ${read} could not be trusted; the last one: ${lastWrong}.`}</Body>
      ) : null}
    </View>
  );
}

import { counted, ofHundred, type GroupPlan, type GroupSetting } from '@tombolo/core';
import { View } from 'react-native';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Mono } from '../../../ui/text';

/** Which setting and hop limit do, and what speaks against the others. */
export function GroupResult({
  plan: { settings, proposed, hopLimit, hopsNeeded, hopsFault, rule },
}: {
  plan: GroupPlan;
}) {
  return (
    <View aria-live="polite">
      <Body bold>
        {hopsFault ??
          `${counted(hopsNeeded, 'hop')} from end to end: hop limit ${hopLimit}, ${hopLimit === hopsNeeded ? 'for no packet goes over more' : 'one more for a carrier that is off'}.`}
      </Body>
      {proposed ? null : (
        <Notice title="No setting does for all of it">
          Put the nodes nearer or higher, have fewer texts, or one carrier more between the ends.
        </Notice>
      )}
      <Stack role="list" aria-label="Settings of the modem" gap={12} above={8}>
        {settings.map((setting) => (
          <Stack
            key={setting.spreadingFactor}
            role="listitem"
            mark={setting === proposed ? 'tide' : 'rule'}
            padLeft={8}
          >
            <Mono bold>{`SF${setting.spreadingFactor}${setting === proposed ? ', proposed' : ''}`}</Mono>
            <Body>{settingWords(setting)}</Body>
            {setting.faults.map((fault) => (
              <Body key={fault} soft>
                {fault}
              </Body>
            ))}
          </Stack>
        ))}
      </Stack>
      <Body
        soft
        above={8}
      >{`Reckoned from free space and the loss that you entered. ${rule.words.replace(/^./, (letter) => letter.toUpperCase())}. Your local rules come first.`}</Body>
    </View>
  );
}

const percent = (share: number): string => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;

const settingWords = ({ marginDb, chance, airMs, channelShare, carrierShare }: GroupSetting): string =>
  `${Math.floor(marginDb)} dB in hand to the next: ${ofHundred(chance)} of 100 frames cross. A text is ${(airMs / 1000).toFixed(2)} s on the air; all of them take ${percent(channelShare)} of the channel, and a carrier ${percent(carrierShare)} of its hour.`;

import { counted, dutyRuleOf, meshAirTimeMs, meshTextFrameOctets, mostInWindowMs, type MeshRadio } from '@tombolo/core';
import { Body } from '../../../ui/text';

/** A text of so many characters stands for all. */
const TEXT = 'x'.repeat(60);

/** What a setting of a mesh takes of the air, and how many texts an hour that leaves each node by the rule of its band. */
export function AirOfSetting({ radio }: { radio: MeshRadio }) {
  return <Body soft>{airWords(radio)}</Body>;
}

export function airWords(radio: MeshRadio): string {
  const ms = meshAirTimeMs(meshTextFrameOctets(TEXT, false), radio);
  const rule = dutyRuleOf(radio.frequencyHz, radio.bandwidthHz);
  const most = mostInWindowMs(rule);
  const hour =
    most === null
      ? `For ${rule.subBand} ${rule.words}.`
      : `${rule.subBand} is used for ${rule.words}: ${counted(Math.floor(most / ms), 'such text')} an hour for each node, repeats of others counted.`;
  return `A text of ${TEXT.length} characters is ${(ms / 1000).toFixed(2)} s on the air at this setting, and as long again with each node that repeats it. ${hour}`;
}

import { TCP_FIELDS, tcpAddress, tcpWords } from '../address-fields';
import type { ConsoleKind } from '../kind';
import { later } from '../later';
import { meshText } from './composer';

export const meshMqtt: ConsoleKind<'mesh-mqtt'> = {
  id: 'mesh-mqtt',
  title: 'A mesh, by its node over MQTT',
  hint: 'Licence-free; private channels are sealed.',
  words: 'Mesh, by its node over MQTT, ',
  where: tcpWords,
  form: {
    fields: [
      ...TCP_FIELDS,
      { name: 'root', label: 'MQTT topic of the mesh', initial: 'mesh' },
      { name: 'node', label: 'Number of our node', hint: 'Eight digits, such as 01D1-0002' },
      { name: 'tag', label: 'Tag of our node', hint: 'One to six letters or digits' },
      {
        name: 'nodeName',
        key: 'name',
        label: 'Name of our node',
        hint: 'Frequency and modem setting are set when you open the mesh',
      },
    ],
    config: (entry) => ({
      kind: 'mesh-mqtt',
      ...tcpAddress(entry),
      root: entry.texts.root ?? '',
      node: entry.texts.node ?? '',
      tag: entry.texts.tag ?? '',
      name: entry.texts.nodeName ?? '',
      channels: [{ name: 'Open', key: null }],
    }),
  },
  inside: { title: 'Open nodes and channels', Place: later(() => import('./mesh-place'), 'the nodes') },
  composer: meshText,
};

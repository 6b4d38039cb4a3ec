import { BOARD_PROFILES } from '@tombolo/core';
import type { NewBearer } from '@tombolo/contract';
import { FORWARD_EVERY_MIN } from './boards';
import { meshNodes, MESH_RADIO, MESH_ROOT, OPEN_CHANNEL, RELIEF_CHANNEL } from './mesh';
import { mailbox } from './people';
import { FREQUENCY_MHZ, stations } from './stations';

/** What stands for the identifier of the modem, which is known when it is there. */
export const MODEM = '(modem)';

/** The links of the demo operator, in the order in which they are set up. */
export const demoBearers = (ports: { kiss: number; feed: number; mesh: number }): NewBearer[] => [
  {
    name: 'Packet radio 144.390',
    config: { kind: 'kiss-tcp', host: '127.0.0.1', port: ports.kiss, frequencyMHz: FREQUENCY_MHZ },
  },
  { name: 'Internet feed', config: { kind: 'line-feed', host: '127.0.0.1', port: ports.feed } },
  {
    name: 'Mesh 868 MHz',
    config: {
      kind: 'mesh-mqtt',
      host: '127.0.0.1',
      port: ports.mesh,
      root: MESH_ROOT,
      node: meshNodes.school.node,
      tag: meshNodes.school.tag,
      name: meshNodes.school.name,
      carrier: meshNodes.school.carrier,
      radio: MESH_RADIO,
      channels: [OPEN_CHANNEL, RELIEF_CHANNEL],
    },
  },
  {
    name: 'Board Hollinport',
    config: {
      kind: 'board',
      over: MODEM,
      call: stations.board.call,
      path: [stations.beaconRigg.call],
      profile: BOARD_PROFILES[0]!,
      forwardsEveryMin: FORWARD_EVERY_MIN,
    },
  },
  {
    name: 'Radio mail Hollinport',
    config: {
      kind: 'radio-mail',
      over: MODEM,
      call: stations.mailGateway.call,
      path: [stations.beaconRigg.call],
      ...mailbox,
    },
  },
];

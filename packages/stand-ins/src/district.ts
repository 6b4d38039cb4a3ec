import { encodeBulletin } from '@tombolo/core';
import {
  boardMessages,
  BULLETIN_EVERY_MIN,
  bulletins,
  FORWARD_EVERY_MIN,
  HISTORY_MIN,
  LIFEBOAT_DRILL,
  FREQUENCY_MHZ,
  meshNodes,
  meshScreenDb,
  meshTexts,
  screens,
  scriptedTexts,
  stations,
  type DistrictNode,
  type DistrictStation,
} from '@tombolo/scenario';
import { runBeacons, USUAL_PATH } from './beacons';
import { createMeshAir, type MeshAir } from './mesh/air';
import { joinMesh, type MeshPort } from './mesh/node';
import { runMeshPerson, type MeshPerson } from './mesh/people';
import { createChannel, type Channel, type Radio } from './radio/channel';
import type { World } from './sim/world';
import { runBoard, type Board } from './stations/board';
import { runCorrespondent, type Correspondent, type CorrespondentOptions } from './stations/correspondent';
import { runCrossBand } from './stations/cross-band';
import { runDigipeater } from './stations/digipeater';
import { runGateway } from './stations/gateway';
import { packetFrom, sendPacket } from './stations/packets';
import { runServices } from './stations/services';

const MINUTE_MS = 60_000;

export interface District {
  readonly channel: Channel;
  /** The radio that our modem is wired to. */
  readonly modemRadio: Radio;
  readonly radios: Readonly<Record<string, Radio>>;
  readonly boards: readonly Board[];
  /** The mesh node that our program is wired to. */
  readonly meshPort: MeshPort;
  readonly meshAir: MeshAir;
  readonly meshPeople: Readonly<Record<string, MeshPerson>>;
}

export interface DistrictOptions {
  /** When the scripted events count from, ms. */
  readonly scriptStartMs: number;
  readonly publish: (line: Uint8Array) => void;
  /** Changes to how some stations answer, by call. */
  readonly correspondents?: Readonly<Record<string, Partial<CorrespondentOptions>>>;
  /** When the lifeboat’s drill begins, minutes after the start of the script; null for none. */
  readonly drillAtMin?: number | null;
  /** Leaves out beacons, bulletins and scripted texts: a quiet channel. */
  readonly quiet?: boolean;
}

/** Builds Hollin Sound on a world: its channel, its stations, and what they do. */
export function buildDistrict(world: World, options: DistrictOptions): District {
  const channel = createChannel(world, { frequencyMHz: FREQUENCY_MHZ, baud: 1200, screenDb });
  const radios = Object.fromEntries(
    Object.values(stations).map((station: DistrictStation) => [
      station.call,
      channel.join({ call: station.call, position: station.position, site: station.site, noiseDb: station.noiseDb }),
    ]),
  ) as Record<string, Radio>;
  const radio = (station: DistrictStation) => radios[station.call]!;

  // A digipeater repeats at once: it holds back only for a busy channel.
  for (const station of [stations.beaconRigg, stations.tarnHead, stations.oxbarDigi, stations.stacksDigi])
    radio(station).settings.persistence = 1;
  runDigipeater(world, radio(stations.beaconRigg), 'fill-in');
  runDigipeater(world, radio(stations.tarnHead), 'wide');
  runDigipeater(world, radio(stations.oxbarDigi), 'unsigned');
  runDigipeater(world, radio(stations.stacksDigi), 'out of turn');
  runGateway(radio(stations.gateway), options.publish);

  const answering: Record<string, CorrespondentOptions> = {
    [stations.lifeboat.call]: { ...plain, replyAfterS: 25, reply: 'Lifeboat here, read you, will do' },
    [stations.clinic.call]: {
      ...plain,
      acknowledgeAfterS: 8,
      lostAcknowledgements: 0.75,
      joins: { misses: 2, askAfterS: 12 },
    },
    [stations.netControl.call]: plain,
    [stations.shelter.call]: plain,
    [stations.truck.call]: plain,
  };
  const correspondents: Record<string, Correspondent> = {};
  for (const [call, how] of Object.entries(answering))
    correspondents[call] = runCorrespondent(world, radios[call]!, { ...how, ...options.correspondents?.[call] });

  runServices(world, radio(stations.gateway));
  const boards = runBoards(world, radio);
  const mesh = runMesh(world, options);

  if (!options.quiet) {
    const { drillAtMin = LIFEBOAT_DRILL.atMin } = options;
    runBeacons(world, (station) => radio(station), options.scriptStartMs, drillAtMin);
    runCrossBand(world, radio(stations.crossBand));
    runScript(world, radio(stations.netControl), correspondents, options.scriptStartMs);
  }
  return { channel, modemRadio: radio(stations.own), radios, boards, ...mesh };
}

/** Two boards that forward to each other on a schedule. */
function runBoards(world: World, radio: (station: DistrictStation) => Radio): Board[] {
  const hollin = runBoard(world, radio(stations.board), 'Board Hollinport', 11);
  const veil = runBoard(world, radio(stations.boardVeil), 'Board Veil', 3);
  for (const [i, message] of boardMessages.entries()) {
    const board = message.at === hollin.call ? hollin : veil;
    const { bulletin, from, to, subject, text } = message;
    // Written before the first start; the world begins six hours before it.
    const writtenMs = world.now() + (HISTORY_MIN - message.minutesAgo) * MINUTE_MS;
    const key = `${(i * 4099 + 8191).toString(16)}@${message.at}`;
    world.after(writtenMs - world.now(), () =>
      board.take({ key, bulletin, from, to, subject, text, writtenMs: world.now(), carried: [] }),
    );
  }
  const forward = () => {
    hollin.forwardTo(veil);
    veil.forwardTo(hollin);
    world.after(FORWARD_EVERY_MIN * MINUTE_MS, forward);
  };
  world.after(FORWARD_EVERY_MIN * MINUTE_MS, forward);
  return [hollin, veil];
}

function runMesh(world: World, options: DistrictOptions) {
  const air = createMeshAir(world, meshScreenDb);
  const ports: Record<string, MeshPort> = {};
  const meshPeople: Record<string, MeshPerson> = {};
  for (const [name, node] of Object.entries(meshNodes) as [string, DistrictNode][]) {
    ports[name] = joinMesh(world, air, node);
    // Our own node speaks through the program that is wired to it.
    if (node !== meshNodes.school) meshPeople[name] = runMeshPerson(world, ports[name]!, node);
  }
  for (const { atMin, from, to, text } of options.quiet ? [] : meshTexts) {
    const delay = options.scriptStartMs + atMin * MINUTE_MS - world.now();
    if (delay >= 0) world.after(delay, () => meshPeople[from]?.write(to === 'all' ? 'all' : meshNodes[to].node, text));
  }
  return { meshPort: ports.school!, meshAir: air, meshPeople };
}

const plain: CorrespondentOptions = {
  path: USUAL_PATH,
  acknowledgeAfterS: 2,
  lostAcknowledgements: 0,
  replyAfterS: null,
  reply: '',
};

function screenDb(from: string, to: string): number {
  let loss = 0;
  for (const screen of screens) {
    const other = screen.of === from ? to : screen.of === to ? from : null;
    if (other !== null && (screen.toward === 'all others' || screen.toward.includes(other))) loss += screen.lossDb;
  }
  return loss;
}

function runScript(
  world: World,
  netControl: Radio,
  correspondents: Record<string, Correspondent>,
  startMs: number,
): void {
  const at = (minutes: number, action: () => void) => {
    const delay = startMs + minutes * MINUTE_MS - world.now();
    if (delay >= 0) world.after(delay, action);
  };
  for (const { atMin, from, to, text, numbered } of scriptedTexts)
    at(atMin, () => correspondents[from]?.write(to, text, numbered));
  for (const [i, bulletin] of bulletins.entries()) {
    const replacedMin = bulletins.slice(i + 1).find((later) => later.id === bulletin.id)?.fromMin ?? Infinity;
    const send = () => {
      const minutes = (world.now() - startMs) / MINUTE_MS;
      if (minutes >= replacedMin) return;
      const info = encodeBulletin(bulletin.id, null, bulletin.text);
      if (info.ok) sendPacket(netControl, packetFrom(netControl.station.call, USUAL_PATH, info.value));
      world.after(BULLETIN_EVERY_MIN * MINUTE_MS, send);
    };
    at(bulletin.fromMin, send);
  }
}

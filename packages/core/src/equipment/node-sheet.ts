import { degreesAndMinutes } from '../geo/written';
import { meshRadioWords } from '../mesh/radio';
import { piecesOn, type KeptPiece, type MeshNodePiece } from './piece';
import type { SheetLine, SheetPlan } from './sheet-line';

/** How long after a change of settings a node is away (common practice, no source: a restart). */
const RESTARTS = 'A node usually restarts after a change of its settings.';

/** What is keyed into a node of the mesh. */
export function nodeSheet(
  node: MeshNodePiece & { readonly id: string },
  pieces: readonly KeptPiece[],
  plan: SheetPlan,
): SheetLine[] {
  const [antenna] = piecesOn(node.id, 'antenna', pieces);
  const typed = plan.place !== null;
  return [
    {
      id: 'antenna',
      subject: 'before power',
      what: 'Antenna',
      value: antenna?.name ?? 'one for the band of the mesh',
      why: 'Before power: a node announces itself as soon as it is on, and without one can destroy its output stage.',
      right: 'Screwed on hand-tight before the cell goes in.',
    },
    ...(node.chargeSwitch
      ? [
          {
            id: 'charge',
            subject: 'before power' as const,
            what: 'Switch of the cell while it charges',
            value: 'on',
            why: 'On this board the cell is charged through its switch.',
            right: 'The charging light is on.',
          },
        ]
      : []),
    {
      id: 'position',
      subject: 'position source',
      what: 'Position',
      value: typed
        ? `typed in: ${degreesAndMinutes(plan.place!)}`
        : node.positionFrom === 'own'
          ? 'own receiver, on'
          : 'none',
      why: typed
        ? 'A node that stays needs no receiver: without it the cell lasts about twice as long.'
        : 'Others see it where it says.',
      right: 'It stands on the chart where it is.',
    },
    {
      id: 'tag',
      subject: 'addresses',
      what: 'Tag and name',
      value: `${node.tag}, ${node.name}`,
      why: 'Two of one tag cannot be told apart.',
      right: 'The others’ lists show it with its next announcement.',
    },
    {
      id: 'mesh-radio',
      subject: 'mesh',
      what: 'Channel and setting',
      value: plan.mesh ? meshRadioWords(plan.mesh.radio) : 'those of your mesh',
      why: `Unset, its transmitter is blocked; another setting, and it hears nobody. ${RESTARTS}`,
      right: 'Announcements of others arrive.',
    },
    {
      id: 'mesh-channels',
      subject: 'mesh',
      what: 'Channels and keys',
      value: plan.mesh ? plan.mesh.channels.join(', ') : 'by the invitation of your mesh',
      why: 'With another key it repeats texts that it cannot read.',
      right: 'A text on each channel is answered.',
    },
    {
      id: 'role',
      subject: 'mesh',
      what: 'Role',
      value: node.role === 'carrier' ? 'carrier: repeats for others' : 'terminal: does not repeat',
      why:
        node.role === 'carrier'
          ? 'High places repeat; everything that it repeats costs its cell.'
          : 'In a hand or a vehicle it would only load the channel.',
      right: 'Its line in the list of nodes says so.',
    },
    {
      id: 'pin',
      subject: 'mesh',
      what: 'Pairing number',
      value: 'changed from the one that it came with',
      why: 'With the one that all know, anybody near can read and change it.',
      right: 'A phone that pairs anew has to be told the new one.',
    },
    {
      id: 'first-hour',
      subject: 'mesh',
      what: 'First hour',
      value: 'wait, or send one test text on the open channel',
      why: 'Nodes announce themselves about every 20 to 30 minutes: an empty list is no fault.',
      right: 'The first names appear.',
    },
  ];
}

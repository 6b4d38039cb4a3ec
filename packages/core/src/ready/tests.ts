import type { CauseId } from './causes';
import type { FaultTest, TestOutcome } from './rule-base';

interface Outcome extends TestOutcome {
  readonly shows: readonly CauseId[] | 'rest';
  readonly maybe?: readonly CauseId[];
}

const outcome = (id: string, words: string, shows: Outcome['shows'], maybe?: readonly CauseId[]): Outcome => ({
  id,
  words,
  shows,
  ...(maybe && { maybe }),
});
/** Yes or no, of which one tells these causes. */
const yes = (...causes: CauseId[]) => [outcome('yes', 'Yes', causes), outcome('no', 'No', 'rest')];
const no = (...causes: CauseId[]) => [outcome('yes', 'Yes', 'rest'), outcome('no', 'No', causes)];
const test = (id: string, costS: number, question: string, outcomes: readonly Outcome[]): FaultTest => ({
  id,
  costS,
  question,
  outcomes,
});
const dangerous = (id: string, costS: number, question: string, danger: string, cause: CauseId): FaultTest => ({
  ...test(id, costS, question, no(cause)),
  danger,
});

/** A test that makes sense only where one of these is seen. */
const onlyFor = (symptoms: readonly string[], of: FaultTest): FaultTest => ({ ...of, symptoms });

/** Before the order of time: what can hurt. */
const FIRST = [
  dangerous(
    'licence',
    2,
    'Does your licence cover this transmission?',
    'Transmitting without one can disturb others who need the channel, and is an offence nearly everywhere.',
    'no-licence',
  ),
  dangerous(
    'antenna',
    10,
    'Is an antenna for this band connected?',
    'A transmitter without one can destroy its output stage.',
    'no-antenna',
  ),
  dangerous(
    'distance',
    5,
    'Is everybody at least as far from the antenna as your exposure rules ask?',
    'The near field of a transmitting antenna can hurt people.',
    'too-near',
  ),
  dangerous(
    'cell',
    10,
    'Is the cell, if there is one, cool, flat and undamaged?',
    'A damaged cell can catch fire, most of all while it is charged or under load.',
    'bad-cell',
  ),
];

/** Between this program and the set. */
const HERE = [
  test('lock', 1, 'Is the transmitter locked here?', yes('locked')),
  test('hold', 1, 'Is everything held here?', yes('held')),
  test('bearer', 1, 'Is the bearer switched on here?', no('bearer-off')),
  test('port', 2, 'Does the modem answer where it is looked for?', no('port-away', 'bearer-off')),
  test('octets', 30, 'What comes from the modem, as its card or the monitor shows it?', [
    outcome('frames', 'Packets of others', 'rest'),
    outcome('garbled', 'Octets that are no frames', ['line-speed']),
    outcome('lines', 'Lines of text', ['not-kiss']),
    outcome('nothing', 'Nothing at all', [
      'port-away',
      'bearer-off',
      'modem-off',
      'wireless-stopped',
      'wrong-receiver',
      'deaf-cable',
      'wrong-on-air-speed',
      'tone-on',
      'squelch',
      'wrong-frequency',
      'scanning',
    ]),
  ]),
  test('line', 60, 'Does the line have the same speed at the modem and here?', no('line-speed')),
  test('mode', 60, 'Is the modem set to KISS?', no('not-kiss')),
];

/** In the set, and between it and the modem. */
const SET = [
  test('mark', 5, 'Is the packet mark of the set lit?', no('modem-off', 'wireless-stopped')),
  test(
    'wireless',
    5,
    'Did a wireless link to a phone come up since the modem was switched on?',
    yes('wireless-stopped'),
  ),
  test('side', 10, 'Does the packet mark stand beside the receiver that is on the packet channel?', [
    outcome('yes', 'Yes', 'rest'),
    // A mark that is not lit stands nowhere.
    outcome('no', 'No', ['wrong-receiver'], ['modem-off', 'wireless-stopped']),
  ]),
  test('dial', 10, 'Is the set on the packet channel of your region?', no('wrong-frequency')),
  test('on-air', 15, 'Does the modem work at the speed that all on the channel use?', no('wrong-on-air-speed')),
  onlyFor(
    ['nothing-goes-out'],
    test(
      'keys',
      15,
      'Does the set key when something is sent?',
      no(
        'no-key-line',
        'never-clear',
        'locked',
        'held',
        'bearer-off',
        'port-away',
        'line-speed',
        'not-kiss',
        'modem-off',
        'wireless-stopped',
      ),
    ),
  ),
  test(
    'key-line',
    120,
    'Does the set key when the key line is closed by hand, or by the test of the modem?',
    no('no-key-line'),
  ),
  test('busy', 20, 'Does the busy light go out at times?', no('never-clear')),
  test('load', 120, 'Does it get through when little is heard on the channel?', yes('crowded')),
  test('dims', 20, 'Does the display dim, or the set restart, when it keys?', yes('weak-cell')),
  test('tone', 5, 'Is a tone squelch on, on the packet side?', yes('tone-on')),
  test('open', 10, 'Do packets appear when the squelch is opened?', yes('squelch')),
  test('scan', 5, 'Does the set scan without the packet channel on its list?', yes('scanning')),
  test('carrier', 20, 'Does the carrier light of the modem follow what is heard?', no('deaf-cable')),
  test('delay', 15, 'Is the transmit delay at least what the set-up sheet says?', no('short-delay')),
  onlyFor(
    ['never-repeated'],
    test('sounds', 90, 'How do your packets sound on another set, beside those of others?', [
      outcome('alike', 'Alike', 'rest'),
      outcome('louder', 'Louder, or harsh', ['too-loud']),
      outcome('softer', 'Softer', ['too-soft']),
      outcome('not-at-all', 'They are not heard', ['wrong-frequency', 'wrong-receiver', 'weak-cell'], ['short-delay']),
    ]),
  ),
];

/** Out on the air. */
const AIR = [
  test('path', 3, 'Whom does the path ask to repeat?', [
    outcome('general', 'Any digipeater', 'rest'),
    outcome('nobody', 'Nobody', ['no-path']),
    outcome('named', 'One by name that was not heard today', ['dead-path']),
  ]),
  test('higher', 180, 'Is it repeated from a window, from outside or from higher up?', yes('out-of-range')),
  test('heard', 3, 'Was the addressee heard within the last half hour?', [
    outcome('yes', 'Yes', 'rest'),
    // Whoever uses another SSID now is silent under this one.
    outcome('no', 'No', ['far-off'], ['other-ssid']),
  ]),
  test('takes-texts', 20, 'Has the addressee ever answered or acknowledged a text?', no('far-no-texts')),
  test('ssid', 3, 'Is it addressed to the SSID under which the station was heard last?', no('other-ssid')),
  test('capitals', 3, 'Is the address in capital letters?', no('lower-case')),
  test('theirs', 10, 'Do digipeaters near you carry packets of the addressee to you?', no('answers-lost', 'far-off')),
];

const POSITIONS = [
  test(
    'fix',
    5,
    'Does the set, or this program, show a position?',
    no('no-fix', 'swapped-lines', 'receiver-off', 'port-speed'),
  ),
  test('sentences', 30, 'What comes from the position receiver?', [
    outcome('lines', 'Lines that begin with “$”', 'rest'),
    outcome('garbled', 'Characters without sense', ['port-speed']),
    outcome('nothing', 'Nothing at all', ['swapped-lines', 'receiver-off']),
  ]),
  test('receiver-on', 10, 'Is the position receiver on, and its plug in?', no('receiver-off')),
  test('reports', 5, 'Are position reports on, or was one sent by hand?', no('reports-off')),
  onlyFor(
    ['position-not-shown'],
    test(
      'repeated',
      3,
      'Was a position of yours heard repeated in the last half hour?',
      no(
        'no-fix',
        'swapped-lines',
        'receiver-off',
        'port-speed',
        'reports-off',
        'out-of-range',
        'no-path',
        'voice-gateway',
      ),
    ),
  ),
  test(
    'clock',
    20,
    'Is the clock right to the minute, of this computer or of the set that reports?',
    no('wrong-clock'),
  ),
  test('voice', 3, 'Does it go by digital voice?', yes('voice-gateway')),
  test('gateway', 3, 'Was a gateway to the internet heard in the last half hour?', no('gateway-gone')),
  test('blanks', 2, 'Was the last position sent with digits left blank?', yes('blanked')),
  test('where', 20, 'Where do others see you?', [
    outcome('elsewhere', 'Somewhere else', 'rest'),
    outcome('mirrored', 'In the other half of the world', ['wrong-half']),
    outcome('before', 'Where you were before', ['old-fix']),
    outcome('some-km', 'Some kilometres off, on the same degrees', ['minutes-as-decimals']),
    outcome('some-hundred-m', 'Some hundred metres off, always the same way', ['datum']),
    outcome('in-a-square', 'In the middle of a square around you', ['blanked']),
  ]),
];

const SESSIONS = [
  test('last-line', 5, 'Does the last line of the other side end with a prompt?', yes('your-turn')),
  test('link', 10, 'What does the session say of the link?', [
    outcome('up', 'It is up', 'rest'),
    outcome('busy', 'The other side is busy', ['far-busy']),
    outcome('repeats', 'Frames are repeated over and over', ['long-frames']),
    outcome('gone', 'It has ended', ['link-lost']),
  ]),
  test('farewell', 10, 'What was the last word of the session?', [
    outcome('other', 'Something else', 'rest'),
    outcome('refused', 'Name or password refused', ['wrong-password']),
    outcome('taken', 'In use by somebody', ['gateway-taken']),
    outcome('silence', 'Nothing ever came', ['gateway-silent']),
    outcome('not-understood', 'A command was not understood', ['other-protocol']),
    outcome('cut', 'It was cut off in the middle', ['link-lost']),
  ]),
];

const MESH = [
  test('mesh-node', 2, 'Does the node answer this program?', no('mesh-node-away')),
  test('mesh-region', 3, 'Is the region of the node set?', no('mesh-unset')),
  test('mesh-time', 2, 'Has the node been on for more than an hour?', [
    outcome('yes', 'Yes', 'rest'),
    outcome('no', 'No', ['mesh-young'], ['mesh-setting', 'mesh-key', 'mesh-far']),
  ]),
  test('mesh-frames', 10, 'What comes from the mesh, as the monitor shows it?', [
    outcome('readable', 'Packets that can be read', ['mesh-young']),
    // Those may be of another group, with which nobody here has to do.
    outcome('sealed', 'Only packets that cannot be read', ['mesh-key'], ['mesh-young']),
    outcome('nothing', 'Nothing', 'rest'),
  ]),
  test('mesh-text', 60, 'Is a test text on the open channel repeated by anybody?', [
    outcome('yes', 'Yes', ['mesh-young', 'mesh-key']),
    outcome('no', 'No', 'rest'),
  ]),
  test(
    'mesh-same',
    60,
    'Are frequency, spreading factor, bandwidth and coding rate those of your neighbours?',
    no('mesh-setting'),
  ),
  test('mesh-invitation', 60, 'Does the invitation of the group show the same key as your node?', no('mesh-key')),
  test('mesh-higher', 180, 'Do names appear from a window, from outside or from higher up?', yes('mesh-far')),
];

const ARRIVALS = [
  test('own-ssid', 10, 'Do the others write to the SSID that this station has?', no('own-ssid')),
  test('store', 1, 'Is there room for arrived texts?', no('store-full')),
  test('gated', 3, 'Was anything of yours heard repeated in the last half hour?', no('not-gated')),
  test('group', 60, 'Does the list of the group name you?', no('left-group')),
];

/** All tests that there are, the dangerous ones first. */
export const TESTS: readonly FaultTest[] = [
  ...FIRST,
  ...HERE,
  ...SET,
  ...AIR,
  ...POSITIONS,
  ...SESSIONS,
  ...MESH,
  ...ARRIVALS,
];

interface CauseWords {
  readonly words: string;
  readonly remedy: string;
}

/**
 * Faults that operators meet, in our words (common practice, no source). What each looks like stands with the tests; how likely it is, with
 * the symptoms.
 */
export const CAUSES = {
  // What can hurt somebody or something.
  'no-licence': {
    words: 'No licence covers this transmission',
    remedy: 'Do not transmit. Listen, or ask somebody with a licence to operate. Your local rules decide.',
  },
  'no-antenna': {
    words: 'No antenna is connected',
    remedy: 'Switch the transmitter off, connect the antenna, then switch on again.',
  },
  'too-near': {
    words: 'Somebody is too near to the antenna',
    remedy: 'Keep the distance that the exposure rules of your country give, then go on.',
  },
  'bad-cell': {
    words: 'The cell is hot, swollen or damaged',
    remedy: 'Switch off, take it outside if you can do so safely, do not charge it, and use another one.',
  },
  // Between this program and the set.
  locked: {
    words: 'The transmitter is locked here',
    remedy: 'Answer what the lock asks for: it stands on every place.',
  },
  held: { words: 'Everything is held here', remedy: 'Let it go again: the notice on every place has the button.' },
  'bearer-off': { words: 'The bearer is switched off here', remedy: 'Switch it on at its card under Bearers.' },
  'port-away': {
    words: 'The modem does not answer where it is looked for',
    remedy: 'Look that it is on, that its cable is in, and that host and port, or the device, are right at its card.',
  },
  'line-speed': {
    words: 'The line to the modem runs at another speed',
    remedy: 'Set the same speed at both ends: what arrives is garbled at any other.',
  },
  'not-kiss': {
    words: 'The modem waits for commands instead of frames',
    remedy: 'Set it to KISS: its book tells how. Lines of text mean that it is not.',
  },
  'deaf-cable': {
    words: 'The modem hears nothing of its radio',
    remedy: 'Look at the cable between radio and modem, and at the volume if it comes from the loudspeaker.',
  },
  'no-key-line': {
    words: 'The radio is not keyed',
    remedy: 'Look at the key line of the cable, and at a setting that lets the data socket key the set.',
  },
  // In the set.
  'modem-off': {
    words: 'The modem in the set is off',
    remedy: 'Switch the packet modem on; the set-up sheet says how it looks.',
  },
  'wireless-stopped': {
    words: 'The modem went off when the wireless link came up',
    remedy: 'Switch the modem on again after pairing, or leave the link off.',
  },
  'wrong-receiver': {
    words: 'The modem works on the other receiver',
    remedy: 'Set the modem to the receiver that is on the packet channel.',
  },
  'wrong-frequency': {
    words: 'The set is on another frequency',
    remedy: 'Tune to the packet channel of your region; local plans come first.',
  },
  'wrong-on-air-speed': {
    words: 'The modem works at another speed on the air',
    remedy: 'Set the speed that all on the channel use, 1200 Bd nearly everywhere.',
  },
  'tone-on': {
    words: 'A tone squelch is on, on the packet side',
    remedy: 'Switch it off: packets carry no tone, so the set stays deaf.',
  },
  squelch: {
    words: 'The squelch is closed too far',
    remedy: 'Open it until noise is just heard, then close it a little.',
  },
  scanning: {
    words: 'The set scans, and the packet channel is not on its list',
    remedy: 'Put the channel on the list, or stop scanning.',
  },
  'never-clear': {
    words: 'The channel never gets clear',
    remedy: 'Wait, or move to where less is heard. If a carrier stands, look whether the squelch is open.',
  },
  crowded: {
    words: 'So much is sent on the channel that packets collide',
    remedy:
      'Send seldom and short, by no more digipeaters than it needs; wait for a quieter hour, or take another way.',
  },
  'weak-cell': {
    words: 'The voltage drops when it transmits',
    remedy: 'Charge or change the cell, or use less power: the set resets or sends garbage.',
  },
  'short-delay': {
    words: 'The transmit delay is too short',
    remedy: 'Make it longer, in steps of 100 ms: the beginning of each packet is lost.',
  },
  'too-loud': {
    words: 'The sound to the radio is too loud',
    remedy: 'Turn it down until your packets sound no louder than those of others.',
  },
  'too-soft': {
    words: 'The sound to the radio is too soft',
    remedy: 'Turn it up until your packets sound as loud as others.',
  },
  // Out there.
  'out-of-range': {
    words: 'No digipeater hears you',
    remedy: 'Go higher, outside, or to a window; a better antenna helps more than power.',
  },
  'no-path': {
    words: 'The path asks nobody to repeat',
    remedy: 'Choose a path with digipeaters; local conventions come first.',
  },
  'dead-path': {
    words: 'The path names a digipeater that is not there',
    remedy: 'Take the general path of your region instead of one by name.',
  },
  'far-off': {
    words: 'The addressee is off, or out of reach now',
    remedy: 'Try again later, or take another way. When it was last heard stands at its page.',
  },
  'far-no-texts': {
    words: 'The addressee does not take texts',
    remedy: 'Trackers and some digipeaters only send. Take another way to the person.',
  },
  'other-ssid': {
    words: 'It is addressed to another SSID',
    remedy: 'Take the SSID under which the station was heard last.',
  },
  'own-ssid': {
    words: 'The others write to another SSID of yours',
    remedy: 'Tell them the one that this station has, or change it in Settings.',
  },
  'lower-case': {
    words: 'The address was keyed in small letters',
    remedy: 'Write it again in capitals: most stations compare letter by letter.',
  },
  'answers-lost': {
    words: 'Its acknowledgements do not reach you',
    remedy: 'The text may well have arrived: wait for an answer, or ask by another way before you send it again.',
  },
  // Positions.
  'no-fix': {
    words: 'There is no position',
    remedy: 'Go under open sky and wait some minutes, or type the position in.',
  },
  'swapped-lines': {
    words: 'Transmit and receive line of the position receiver are swapped',
    remedy: 'Swap them, or put a crossed cable between: nothing breaks.',
  },
  'receiver-off': {
    words: 'The position receiver is off, or its cable is out',
    remedy: 'Switch it on, and push its plug in as far as it goes.',
  },
  'port-speed': {
    words: 'The position port runs at another speed',
    remedy: 'Set the port to the speed of the receiver: 4800 Bd unless its book says otherwise.',
  },
  'reports-off': { words: 'Position reports are off', remedy: 'Switch them on, or send one by hand: Tools, Position.' },
  'voice-gateway': {
    words: 'It goes to a digital-voice gateway that passes no positions',
    remedy: 'Ask whoever runs it, or send the position by packet radio.',
  },
  'wrong-clock': {
    words: 'The clock is wrong',
    remedy: 'Set it: what is stamped hours off is shown as old, or thrown away.',
  },
  'gateway-gone': {
    words: 'No gateway to the internet is heard',
    remedy: 'Those on the radio see you all the same. The chart shows when a gateway was heard last.',
  },
  'wrong-half': {
    words: 'North and south or east and west are exchanged',
    remedy: 'Type the position again, with the letters of both halves.',
  },
  'minutes-as-decimals': {
    words: 'Minutes were typed as decimals of a degree, or the other way round',
    remedy: 'Type it again in one of the forms of Tools, Position, which shows all of them beside each other.',
  },
  'old-fix': {
    words: 'An old position is sent again and again',
    remedy: 'Look at the age of the fix; a typed position has to be typed anew after moving.',
  },
  datum: { words: 'The receiver uses another datum', remedy: 'Set it to WGS 84.' },
  blanked: {
    words: 'Digits are left blank on purpose',
    remedy: 'Send it “as it is” if others should see you exactly.',
  },
  // Connections.
  'far-busy': {
    words: 'The other side is busy',
    remedy: 'Wait: it says so itself and goes on when it can. Hang up if it lasts minutes.',
  },
  'long-frames': {
    words: 'The frames are too long for the link',
    remedy: 'Use shorter ones: each lost bit costs the whole frame.',
  },
  'your-turn': {
    words: 'It waits for a line from you',
    remedy: 'Look at its last line: it ends with a prompt. Type the command.',
  },
  'link-lost': { words: 'The link has broken', remedy: 'Begin again; a direct path or another hour may help.' },
  // Mesh.
  'mesh-unset': {
    words: 'The region of the node is not set',
    remedy: 'Set it: until then its transmitter is blocked, and rightly so.',
  },
  'mesh-setting': {
    words: 'The node has another setting than the others',
    remedy: 'Frequency, spreading factor, bandwidth and coding rate have to be the same at all.',
  },
  'mesh-key': {
    words: 'The key of the channel differs',
    remedy: 'Take the invitation of the group anew: with another key nothing can be read.',
  },
  'mesh-young': {
    words: 'It is too early',
    remedy:
      'Nodes announce themselves every 20 to 30 minutes. A test text on the open channel brings others out sooner.',
  },
  'mesh-far': { words: 'No node is in reach', remedy: 'Go higher or outside: height and line of sight decide.' },
  'mesh-node-away': {
    words: 'The node does not answer this program',
    remedy: 'Look that it is on and joined to the network, and at the address on its card.',
  },
  // Mail and boards.
  'wrong-password': {
    words: 'The gateway refuses the sign-in',
    remedy: 'Look at name and password; some gateways take only who has registered.',
  },
  'gateway-taken': { words: 'The gateway is in a session with somebody', remedy: 'Try again in some minutes.' },
  'gateway-silent': {
    words: 'The gateway does not answer at all',
    remedy: 'Another one, or another frequency or hour. Where it was heard last stands at its page.',
  },
  'other-protocol': {
    words: 'Both sides speak differently',
    remedy: 'Choose the profile of that board or gateway at its card.',
  },
  // What comes in.
  'store-full': {
    words: 'The store for arrived texts is full',
    remedy: 'File what is done with: new ones are refused until then.',
  },
  'not-gated': {
    words: 'The gateway has not heard you lately, so it passes nothing to you',
    remedy: 'Send your position or a text: most gateways pass to the radio only who was heard there lately.',
  },
  'left-group': { words: 'You are not in the group any more', remedy: 'Join it again.' },
} as const satisfies Readonly<Record<string, CauseWords>>;

export type CauseId = keyof typeof CAUSES;

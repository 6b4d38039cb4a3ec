import { webcrypto } from 'node:crypto';
import { TextDecoder, TextEncoder } from 'node:util';

// Every browser has these; the page of the tests does not.
Object.assign(globalThis, { TextDecoder, TextEncoder });
Object.defineProperty(globalThis, 'crypto', { value: webcrypto });

// What the build of the page writes into Expo's modules.
process.env.EXPO_OS = 'web';

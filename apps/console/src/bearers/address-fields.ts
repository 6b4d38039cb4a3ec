import type { BearerConfig } from '@tombolo/contract';
import type { Entry, BearerField } from './kind';
import { pathElements } from './packets/plan';

/** Of bearers that are reached over TCP. */
export const TCP_FIELDS: readonly BearerField[] = [
  { name: 'host', label: 'Host', initial: '127.0.0.1' },
  { name: 'port', label: 'TCP port', initial: '8001' },
];
export const tcpAddress = ({ texts }: Entry) => ({ host: texts.host ?? '', port: Number(texts.port) });
export const tcpWords = ({ host, port }: { readonly host: string; readonly port: number }): string => `${host}:${port}`;

/** Of stations that are called over a modem. */
export const CALLED_FIELDS: readonly BearerField[] = [
  { name: 'call', label: 'Call sign with SSID', hint: 'Such as QT1BB-4' },
  { name: 'path', label: 'Digipeaters on the way', hint: 'By their calls, in order; empty for direct' },
];
export const calledAddress = ({ texts, over }: Entry) => ({
  over,
  call: texts.call ?? '',
  path: pathElements(texts.path ?? ''),
});
export const calledWords = ({ call, path }: BearerConfig<'board' | 'radio-mail'>): string =>
  [call, ...(path.length > 0 ? [`via ${path.join(', ')}`] : [])].join(' ');

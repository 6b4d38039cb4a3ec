import { connect } from 'node:net';
import type { OpenLine } from './equipment-link';

const CONNECT_TIMEOUT_MS = 10_000;

/** A TCP connection to equipment. */
export function openTcpLine({ host, port }: { readonly host: string; readonly port: number }): OpenLine {
  const socket = connect({ host, port });
  let problem: string | null = null;
  socket.setTimeout(CONNECT_TIMEOUT_MS, () => socket.destroy(new Error('no answer within 10 s')));
  socket.once('connect', () => {
    socket.setTimeout(0);
    socket.setNoDelay(true);
    socket.setKeepAlive(true, 15_000);
  });
  socket.on('error', (error) => (problem = inWords(error)));
  return {
    stream: socket,
    onUp: (call) => void socket.once('connect', call),
    onDown(call) {
      const closed = () => call(problem);
      socket.once('close', closed);
      return () => socket.off('close', closed);
    },
    close: (words) => void socket.destroy(words === undefined ? undefined : new Error(words)),
  };
}

function inWords(error: Error & { code?: string }): string {
  switch (error.code) {
    case 'ECONNREFUSED':
      return 'nothing listens at that address and port';
    case 'ENOTFOUND':
      return 'the host name is not known';
    case 'ECONNRESET':
      return 'the other side broke the connection';
    case 'EHOSTUNREACH':
    case 'ENETUNREACH':
      return 'no way to that host';
    case 'ETIMEDOUT':
      return 'no answer';
    default:
      return error.message;
  }
}

export * from './clock';
export * from './link-port';
export * from './link-stream';

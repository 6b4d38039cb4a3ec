export * from './kind';
export * from './address';
export * from './kiss-tcp';
export * from './line-feed';
export * from './board';
export * from './radio-mail';
export * from './mesh-mqtt';
export * from './views';

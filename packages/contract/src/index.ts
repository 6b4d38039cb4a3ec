export * from './settings';
export * from './traffic';
export * from './heard';
export * from './bearers';
export * from './exchange';
export * from './relay';
export * from './mesh';
export * from './wire';

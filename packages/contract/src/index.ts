export * from './settings';
export * from './traffic';
export * from './heard';
export * from './bearers';
export * from './wire';

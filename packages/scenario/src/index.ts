export * from './stations';
export * from './script';
export * from './objects';
export * from './settings';
export * from './mesh';
export * from './people';
export * from './boards';
export * from './bearers';

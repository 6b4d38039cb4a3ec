export * from './stations';
export * from './script';
export * from './settings';

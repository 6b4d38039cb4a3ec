export * from './district';
export * from './run-district';
export * from './sim/world';
export * from './radio/channel';

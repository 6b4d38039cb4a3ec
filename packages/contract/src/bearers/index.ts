// Each makes its kind known when it is loaded: named so, no build leaves one out of which nothing else is used.
import './kiss-tcp';
import './kiss-serial';
import './line-feed';
import './board';
import './radio-mail';
import './mesh-mqtt';

export * from './kind';
export * from './address';
export * from './modem';
export * from './kiss-tcp';
export * from './kiss-serial';
export * from './line-feed';
export * from './board';
export * from './radio-mail';
export * from './mesh-mqtt';
export * from './views';

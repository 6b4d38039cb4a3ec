export { BulletinsPlace as default } from '../../src/places/tools/bulletins/bulletins-place';
export { ErrorBoundary } from '../../src/places/boundary';

export { RepeatingPlace as default } from '../../src/places/tools/repeating/repeating-place';
export { ErrorBoundary } from '../../src/places/boundary';

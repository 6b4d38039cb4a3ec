export { PhrasesPlace as default } from '../../src/places/tools/phrases/phrases-place';
export { ErrorBoundary } from '../../src/places/boundary';

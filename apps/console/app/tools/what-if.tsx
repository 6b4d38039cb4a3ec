export { WhatIfPlace as default } from '../../src/places/tools/what-if/what-if-place';
export { ErrorBoundary } from '../../src/places/boundary';

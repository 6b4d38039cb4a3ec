export { LinksHeardPlace as default } from '../../src/places/chart/links-heard-place';
export { ErrorBoundary } from '../../src/places/boundary';

export { RulesPlace as default } from '../../src/places/tools/rules-place';
export { ErrorBoundary } from '../../src/places/boundary';

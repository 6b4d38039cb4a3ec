export { ToolsPlace as default } from '../../src/places/tools/tools-place';
export { ErrorBoundary } from '../../src/places/boundary';

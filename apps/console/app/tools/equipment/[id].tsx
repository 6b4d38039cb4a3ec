export { SheetPlace as default } from '../../../src/places/tools/equipment/sheet-place';
export { ErrorBoundary } from '../../../src/places/boundary';

export { EquipmentPlace as default } from '../../../src/places/tools/equipment/equipment-place';
export { ErrorBoundary } from '../../../src/places/boundary';

export { MeshPlanPlace as default } from '../../src/places/tools/mesh-plan/mesh-plan-place';
export { ErrorBoundary } from '../../src/places/boundary';

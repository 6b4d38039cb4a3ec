export { BackupPlace as default } from '../../src/places/tools/backup-place';
export { ErrorBoundary } from '../../src/places/boundary';

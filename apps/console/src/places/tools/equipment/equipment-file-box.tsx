import { equipmentFile } from '@tombolo/contract';
import { counted } from '@tombolo/core';
import { FileBox } from '../file-box';
import { equipmentAtStation } from './at-station';

/** Equipment as a file, out and in. */
export const EquipmentFileBox = ({ count }: { count: number }) => (
  <FileBox
    what="equipment"
    words="To carry to another station, or to somebody with the same set. A piece that is already here is replaced."
    schema={equipmentFile}
    fileUrl={equipmentAtStation.fileUrl}
    empty={count === 0}
    take={equipmentAtStation.readFile}
    counted={({ pieces }) => counted(pieces.length, 'piece')}
    stale={['equipment']}
  />
);

import type { Composer } from '../kind';
import { later } from '../later';

export const meshText: Composer = { id: 'mesh', title: 'Mesh', Form: later(() => import('./mesh-text'), 'the text') };

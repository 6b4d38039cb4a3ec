import type { ItemDetail, ItemSummary } from '@tombolo/contract';
import { z } from 'zod';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

/** Of older ones nobody asks any more. */
const MOST = 2000;

const kept = z.object({ read: z.array(z.string()).max(MOST), sinceMs: z.number() });

interface ReadMarks extends z.infer<typeof kept> {
  readonly markRead: (...keys: readonly string[]) => void;
}

/** What was opened on this device: who reads at another one has to see for themselves. What came before this was first kept counts as read. */
export const useReadMarks = create<ReadMarks>()(
  persist(
    (set, get) => ({
      read: [],
      sinceMs: Date.now(),
      markRead: (...keys) => {
        const fresh = [...new Set(keys)].filter((key) => !get().read.includes(key));
        if (fresh.length > 0) set(({ read }) => ({ read: [...read, ...fresh].slice(-MOST) }));
      },
    }),
    {
      name: 'tombolo-read',
      storage: createJSONStorage(() => localStorage),
      merge: (stored, current) => {
        const parsed = kept.safeParse(stored);
        return parsed.success ? { ...current, ...parsed.data } : current;
      },
    },
  ),
);

const keyOf = (id: string, there: number | undefined): string => (there === undefined ? id : `${id} ${there}`);

/** What is read of an item: where it stands for a text in parts, as much of it as is there. */
export const readKey = ({ id, whole }: Pick<ItemSummary, 'id' | 'whole'>): string => keyOf(id, whole?.there);

/** What is read with an open item: all the parts that it shows, whichever of them stands for the text. */
export const readWith = (item: Pick<ItemDetail, 'id' | 'whole' | 'parts'>): string[] => {
  const { parts } = item;
  const others = parts ? parts.items.flatMap(({ id }) => [id, keyOf(id, parts.of - parts.missing.length)]) : [];
  return [readKey(item), ...others];
};

type Readable = Pick<ItemSummary, 'id' | 'direction' | 'createdAt' | 'filedAt' | 'whole'>;

/** Whether something that came was not opened here yet. */
export const isUnread = (item: Readable, { read, sinceMs }: Pick<ReadMarks, 'read' | 'sinceMs'>): boolean =>
  item.direction === 'in' &&
  item.filedAt === null &&
  Date.parse(item.createdAt) > sinceMs &&
  !read.includes(readKey(item));

export const useUnread = (item: Readable): boolean => useReadMarks((marks) => isUnread(item, marks));

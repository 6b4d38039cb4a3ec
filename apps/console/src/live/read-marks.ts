import { z } from 'zod';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

/** Of older ones nobody asks any more. */
const MOST = 2000;

const kept = z.object({ read: z.array(z.string()).max(MOST), sinceMs: z.number() });

interface ReadMarks extends z.infer<typeof kept> {
  readonly markRead: (id: string) => void;
}

/** What was opened on this device: who reads at another one has to see for themselves. What came before this was first kept counts as read. */
export const useReadMarks = create<ReadMarks>()(
  persist(
    (set, get) => ({
      read: [],
      sinceMs: Date.now(),
      markRead: (id) => {
        if (!get().read.includes(id)) set(({ read }) => ({ read: [...read, id].slice(-MOST) }));
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

/** Whether something that came was not opened here yet. */
export const useUnread = ({
  id,
  direction,
  createdAt,
  filedAt,
}: {
  id: string;
  direction: 'out' | 'in';
  createdAt: string;
  filedAt: string | null;
}): boolean =>
  useReadMarks(
    ({ read, sinceMs }) =>
      direction === 'in' && filedAt === null && Date.parse(createdAt) > sinceMs && !read.includes(id),
  );

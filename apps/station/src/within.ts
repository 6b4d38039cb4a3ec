/** What some work gives, or a failure in words when it takes longer than `ms`; it goes on then, and nobody waits for it. */
export async function within<T>(ms: number, work: Promise<T>): Promise<T> {
  let late: NodeJS.Timeout | undefined;
  try {
    return await Promise.race([
      work,
      new Promise<never>((_, fail) => {
        late = setTimeout(() => fail(new Error(`it took longer than ${ms} ms`)), ms);
      }),
    ]);
  } finally {
    clearTimeout(late);
  }
}

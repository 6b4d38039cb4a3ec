/** Packet channels by region (common practice, no source; the local plan comes first, so they can be edited). */
export const REGIONS = [
  { id: 'americas', name: 'North America', packetMHz: 144.39 },
  { id: 'europe', name: 'Europe', packetMHz: 144.8 },
  { id: 'other', name: 'Another region', packetMHz: null },
] as const;

export type RegionId = (typeof REGIONS)[number]['id'];

/** `144.390`, as operators write it. */
export const formatMHz = (frequencyMHz: number): string => frequencyMHz.toFixed(3);

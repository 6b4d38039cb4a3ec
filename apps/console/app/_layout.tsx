// The kinds of bearers are known before anything asks for one.
import '@tombolo/contract/bearers/config';
import { QueryClientProvider } from '@tanstack/react-query';
import { Slot } from 'expo-router';
import { useEffect, useState } from 'react';
import { loadAllLater } from '../src/bearers/later';
import { useLiveFeed } from '../src/live/live-feed';
import { createClient, useStationsAhead } from '../src/live/queries';
import { Shell } from '../src/places/shell';
import { LookProvider } from '../src/ui/look';

export default function RootLayout() {
  const [client] = useState(createClient);
  return (
    <QueryClientProvider client={client}>
      <LookProvider>
        <Live />
        <Shell>
          <Slot />
        </Shell>
      </LookProvider>
    </QueryClientProvider>
  );
}

/** The parts of the program that the first screen does not need: small, and there before the network goes. */
const PARTS: (() => Promise<unknown>)[] = [
  () => import('./traffic/[id]'),
  () => import('./write'),
  // Known when Write is.
  loadAllLater,
  () => import('./chart/index'),
  () => import('./bearers/index'),
  () => import('./log'),
  () => import('./packet/[id]'),
  () => import('./chart/station'),
  () => import('./bearers/[id]'),
  () => import('./tools/index'),
  () => import('./tools/settings'),
  () => import('./tools/people'),
];
/** When the first screen has come to rest. */
const AHEAD_MS = 2000;

function usePartsAhead(): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      void (async () => {
        // One that does not come is asked for again by the place that needs it.
        for (const part of PARTS) await part().catch(() => undefined);
      })();
    }, AHEAD_MS);
    return () => clearTimeout(timer);
  }, []);
}

/** What the chart is set to is no part of the first screen. */
const hoursOfTrails = () =>
  import('../src/places/chart/chart-store').then((chart) => chart.hoursOfTrails(chart.useChart.getState()));

function Live() {
  useLiveFeed();
  useStationsAhead(hoursOfTrails);
  usePartsAhead();
  return null;
}

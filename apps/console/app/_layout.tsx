import { AtkinsonHyperlegible_400Regular } from '@expo-google-fonts/atkinson-hyperlegible/400Regular';
import { AtkinsonHyperlegible_700Bold } from '@expo-google-fonts/atkinson-hyperlegible/700Bold';
import { AtkinsonHyperlegibleMono_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-mono/400Regular';
import { AtkinsonHyperlegibleMono_700Bold } from '@expo-google-fonts/atkinson-hyperlegible-mono/700Bold';
import MaterialCommunityIcons from '@expo/vector-icons/MaterialCommunityIcons';
import { QueryClientProvider } from '@tanstack/react-query';
import { useFonts } from 'expo-font';
import { Slot } from 'expo-router';
import { useState } from 'react';
import { createClient, useLiveFeed, useStationsAhead } from '../src/live/queries';
import { Shell } from '../src/places/shell';
import { LookProvider } from '../src/ui/look';

export default function RootLayout() {
  const [client] = useState(createClient);
  // The browser's own faces stand in until ours are there.
  useFonts({
    AtkinsonHyperlegible_400Regular,
    AtkinsonHyperlegible_700Bold,
    AtkinsonHyperlegibleMono_400Regular,
    AtkinsonHyperlegibleMono_700Bold,
    ...MaterialCommunityIcons.font,
  });
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

function Live() {
  useLiveFeed();
  useStationsAhead();
  return null;
}

import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react';
import { useWindowDimensions } from 'react-native';
import { createTheme, ThemeProvider } from '@rneui/themed/dist/config';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { LIGHTS, looks, type Light, type Look } from './lights';

interface LightStore {
  readonly light: Light;
  readonly choose: (light: Light) => void;
}

const prefersDark = () => typeof matchMedia === 'function' && matchMedia('(prefers-color-scheme: dark)').matches;

export const useLight = create<LightStore>()(
  persist(
    (set) => ({
      light: prefersDark() ? 'dusk' : 'day',
      choose: (light) => set({ light }),
    }),
    {
      name: 'tombolo-light',
      storage: createJSONStorage(() => localStorage),
      merge: (kept, current) => {
        const light = (kept as { light?: unknown } | undefined)?.light;
        return LIGHTS.includes(light as Light) ? { ...current, light: light as Light } : current;
      },
    },
  ),
);

const LookContext = createContext<Look>(looks.day);
export const useLook = (): Look => useContext(LookContext);

/** Typefaces as the page declares them. */
export const type = {
  body: 'AtkinsonHyperlegible_400Regular',
  bold: 'AtkinsonHyperlegible_700Bold',
  mono: 'AtkinsonHyperlegibleMono_400Regular',
  monoBold: 'AtkinsonHyperlegibleMono_700Bold',
} as const;

/** Wide screens show list and detail beside each other. */
export const WIDE_PX = 900;
export const useWide = (): boolean => useWindowDimensions().width >= WIDE_PX;
/** Wide enough for a third column. */
export const useThirdColumn = (): boolean => useWindowDimensions().width >= 1200;

/** Gives the chosen light to everything below, also to the element library. */
export function LookProvider({ children }: { children: ReactNode }) {
  const light = useLight((store) => store.light);
  const look = looks[light];
  const theme = useMemo(
    () =>
      createTheme({
        mode: light === 'day' ? 'light' : 'dark',
        lightColors: { primary: look.tide, background: look.paper, black: look.ink, error: look.alarm },
        darkColors: { primary: look.tide, background: look.paper, black: look.ink, error: look.alarm },
      }),
    [light, look],
  );
  useEffect(() => {
    // The colours of the page itself stand in its head, so that they are there before this program is.
    document.documentElement.dataset.light = light;
    document.querySelector('meta[name="theme-color"]')?.setAttribute('content', look.paper);
  }, [light, look]);
  return (
    <LookContext.Provider value={look}>
      <ThemeProvider theme={theme}>{children}</ThemeProvider>
    </LookContext.Provider>
  );
}

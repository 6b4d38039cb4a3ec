import { covered, type CoveredAsked } from './covered';

self.onmessage = ({ data }: MessageEvent<CoveredAsked>) => {
  for (const one of covered(data)) self.postMessage(one);
};

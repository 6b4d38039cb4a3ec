import { compared, type ComparisonAsked } from './compared';

self.onmessage = ({ data }: MessageEvent<ComparisonAsked>) => {
  for (const one of compared(data)) self.postMessage(one);
};

import { reckoned, type WhatIfAsked } from './reckoned';

self.onmessage = ({ data }: MessageEvent<WhatIfAsked>) => {
  for (const one of reckoned(data)) self.postMessage(one);
};

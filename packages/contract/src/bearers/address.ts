import { parseAddress } from '@tombolo/core';
import { z } from 'zod';

export const host = z
  .string()
  .trim()
  .regex(/^[A-Za-z0-9.:_-]{1,253}$/, 'a host name or address');
export const port = z.number().int().min(1).max(65_535);

/** A call sign with SSID that a connection can be made to. */
export const stationAddress = z
  .string()
  .trim()
  .toUpperCase()
  .superRefine((text, context) => {
    const address = parseAddress(text);
    if (!address.ok) context.addIssue({ code: 'custom', message: address.error.reason });
  });

/** Devices of serial lines, by the names that systems give them: no other one is opened, since some act by being opened. */
export const serialDevice = z
  .string()
  .trim()
  .regex(
    /^(?:\/dev\/(?:tty[A-Za-z]{1,6}\d{1,3}|rfcomm\d{1,3}|pts\/\d{1,5}|serial\/by-(?:id|path)\/[\w.:+-]{1,200}|(?:tty|cu)\.[\w.-]{1,100})|COM\d{1,3})$/,
    'the name of a device, such as /dev/ttyUSB0',
  );

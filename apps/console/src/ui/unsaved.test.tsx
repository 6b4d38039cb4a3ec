import { act, renderHook } from '@testing-library/react';
import { useForm } from 'react-hook-form';
import { useUnsaved } from './unsaved';

const open = (call = 'QT2AR') =>
  renderHook(() => {
    const form = useForm({ defaultValues: { call, ssid: '7' } });
    useUnsaved('a form', form);
    return form;
  });
const leaves = () => {
  const event = new Event('beforeunload', { cancelable: true });
  dispatchEvent(event);
  return !event.defaultPrevented;
};

it('a form that was left with edits has them when it is opened again, and the page is not left without asking', () => {
  const first = open();
  expect(leaves()).toBe(true);
  act(() => first.result.current.setValue('ssid', '9', { shouldDirty: true }));
  expect(leaves()).toBe(false);
  first.unmount();
  // What was not edited is as it was set elsewhere meanwhile.
  const second = open('QT3XY');
  expect(second.result.current.getValues()).toEqual({ call: 'QT3XY', ssid: '9' });
  expect(leaves()).toBe(false);
  act(() => second.result.current.reset({ call: 'QT2AR', ssid: '9' }));
  expect(leaves()).toBe(true);
  second.unmount();
  expect(open().result.current.getValues()).toEqual({ call: 'QT2AR', ssid: '7' });
});

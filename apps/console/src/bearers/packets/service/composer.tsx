import { lazy, Suspense } from 'react';
import { Waiting } from '../../../ui/page';
import type { Composer } from '../../kind';

// Not with the first screen: it is loaded when somebody writes by a service.
const ServiceCommand = lazy(() => import('./service-command'));

/** A command to a service behind a gateway. */
export const service: Composer = {
  id: 'service',
  title: 'By a service',
  always: true,
  Form: () => (
    <Suspense fallback={<Waiting what="the services" />}>
      <ServiceCommand />
    </Suspense>
  ),
};

import '@testing-library/jest-dom';
import { configure } from '@testing-library/react';

// A busy machine takes longer than the second that is usual; a condition that comes true ends the wait.
configure({ asyncUtilTimeout: 10_000 });
jest.setTimeout(30_000);

import { configure } from '@testing-library/react';
// What component tests start with: matchers for what is on the page.
import '@testing-library/jest-dom';

// A slow, busy machine is no failure: what is waited for may take its time.
configure({ asyncUtilTimeout: 30_000 });

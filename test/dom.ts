// What component tests start with: matchers for what is on the page.
import '@testing-library/jest-dom';

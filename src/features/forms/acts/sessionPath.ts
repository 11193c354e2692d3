export const sessionPath = (sessionId: string): string => `/calibrate/${sessionId}`;

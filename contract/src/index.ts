export * from './routes.js';
export * from './jobs.js';
export * from './schemas.js';

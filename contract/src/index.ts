export * from './routes.js';
export * from './schemas.js';

export * from './wrap.js';

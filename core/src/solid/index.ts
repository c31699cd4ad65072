export * from './bvh.js';
export * from './closest-point.js';
export * from './faults.js';
export * from './hidden-faces.js';
export * from './survey.js';
export * from './winding.js';

import type { Routes } from '@angular/router';
import { leaveBench } from './bench/leave-bench';

export const appRoutes: Routes = [
  {
    path: '',
    loadComponent: () => import('./yards/yards-page').then((m) => m.YardsPage),
    title: 'Yards · Yard Brace',
  },
  {
    path: 'yards/:yardId',
    loadComponent: () => import('./shelf/shelf-page').then((m) => m.ShelfPage),
    title: 'Shelf · Yard Brace',
  },
  {
    path: 'pieces/:pieceId',
    loadComponent: () => import('./bench/bench-page').then((m) => m.BenchPage),
    canDeactivate: [leaveBench],
    title: 'Bench · Yard Brace',
  },
  { path: '**', redirectTo: '' },
];

import type { Routes } from '@angular/router';
import { leaveSaved } from './ui/leave-saved';

export const appRoutes: Routes = [
  {
    path: '',
    loadComponent: () => import('./pages/yards/yards-page').then((m) => m.YardsPage),
    title: 'Yards · Yard Brace',
  },
  {
    path: 'yards/:yardId',
    loadComponent: () => import('./pages/shelf/shelf-page').then((m) => m.ShelfPage),
    title: 'Shelf · Yard Brace',
  },
  {
    path: 'yards/:yardId/kit-sheet',
    loadComponent: () => import('./pages/shelf/kit-sheet-page').then((m) => m.KitSheetPage),
    title: 'Kit sheet · Yard Brace',
  },
  {
    path: 'guide',
    loadComponent: () => import('./pages/guide/guide-page').then((m) => m.GuidePage),
    title: 'Guide · Yard Brace',
  },
  {
    path: 'guide/:page',
    loadComponent: () => import('./pages/guide/guide-page').then((m) => m.GuidePage),
    title: 'Guide · Yard Brace',
  },
  {
    path: 'yards/:yardId/deliveries',
    loadComponent: () => import('./pages/deliveries/deliveries-page').then((m) => m.DeliveriesPage),
    title: 'Deliveries · Yard Brace',
  },
  {
    path: 'yards/:yardId/set-out',
    loadComponent: () => import('./pages/set-out/set-out-page').then((m) => m.SetOutPage),
    canDeactivate: [leaveSaved],
    title: 'Set-out · Yard Brace',
  },
  {
    path: 'yards/:yardId/rules',
    loadComponent: () => import('./pages/rules/rules-page').then((m) => m.RulesPage),
    title: 'Rules · Yard Brace',
  },
  {
    path: 'jobs/:jobId',
    loadComponent: () => import('./pages/jobs/job-page').then((m) => m.JobPage),
    title: 'Job · Yard Brace',
  },
  {
    path: 'deliveries/:id/sheet',
    loadComponent: () => import('./pages/deliveries/sheet-page').then((m) => m.SheetPage),
    title: 'Import sheet · Yard Brace',
  },
  {
    path: 'pieces/:pieceId',
    loadComponent: () => import('./pages/bench/bench-page').then((m) => m.BenchPage),
    canDeactivate: [leaveSaved],
    title: 'Bench · Yard Brace',
  },
  { path: '**', redirectTo: '' },
];

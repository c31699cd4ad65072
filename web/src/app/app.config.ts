import { type ApplicationConfig, provideZonelessChangeDetection } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { providePrimeNG } from 'primeng/config';
import { appRoutes } from './app.routes';
import { workshopPreset } from './theme/preset';

const nonce = () => document.querySelector('yb-root')?.getAttribute('ngCspNonce') ?? '';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(appRoutes, withComponentInputBinding()),
    providePrimeNG({
      theme: { preset: workshopPreset, options: { darkModeSelector: 'none' } },
      csp: { nonce: nonce() },
    }),
  ],
};

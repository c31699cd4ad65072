import { type ApplicationConfig, provideZonelessChangeDetection } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { appRoutes } from './app.routes';
import { workshopPreset } from './theme/preset';

const nonce = () => document.querySelector('yb-root')?.getAttribute('ngCspNonce') ?? '';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    MessageService,
    provideRouter(appRoutes, withComponentInputBinding()),
    providePrimeNG({
      theme: {
        preset: workshopPreset,
        options: { darkModeSelector: 'none', cssLayer: { name: 'primeng', order: 'base, primeng' } },
      },
      csp: { nonce: nonce() },
    }),
  ],
};

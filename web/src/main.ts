import { bootstrapApplication } from '@angular/platform-browser';
import * as z from 'zod';
import { App } from './app/app';
import { appConfig } from './app/app.config';
import { keepStyles } from './app/theme/kept-styles';
import { holdPresses } from './app/ui/held-press';

// Our content policy forbids making code from text, which Zod would otherwise try for speed.
z.config({ jitless: true });
keepStyles();
holdPresses(document);
bootstrapApplication(App, appConfig);

import { Directive, inject, output, signal } from '@angular/core';
import { droppedFiles } from '../state/dropped-files';
import { Notices } from '../state/notices';

/** Makes a whole page take dropped files. */
@Directive({
  selector: '[ybDropFiles]',
  exportAs: 'dropFiles',
  host: {
    '(dragenter)': 'enter($event)',
    '(dragover)': '$event.preventDefault()',
    '(dragleave)': 'leave()',
    '(drop)': 'drop($event)',
  },
})
export class DropFiles {
  readonly ybDropFiles = output<File[]>();
  readonly over = signal(false);
  private readonly notices = inject(Notices);
  private depth = 0;

  protected enter(event: DragEvent): void {
    event.preventDefault();
    this.depth++;
    this.over.set(!!event.dataTransfer?.types.includes('Files'));
  }

  protected leave(): void {
    if (--this.depth === 0) this.over.set(false);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.depth = 0;
    this.over.set(false);
    if (!event.dataTransfer) return;
    void droppedFiles(event.dataTransfer).then(({ files, missing }) => {
      for (const sentence of missing) this.notices.say(sentence, true);
      if (files.length) this.ybDropFiles.emit(files);
    });
  }
}

import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { providePrimeNG } from 'primeng/config';
import { showYardIn } from '../state/shown-unit';
import { NumberField } from './number-field';

@Component({
  imports: [NumberField],
  template: `<yb-number
    [value]="value()"
    (changed)="take($event)"
    label="Width"
    [min]="1"
    [max]="64"
    [unit]="unit()"
  />`,
})
class Host {
  readonly value = signal(12);
  readonly unit = signal('');
  readonly heard: number[] = [];
  accept = false;
  take(value: number) {
    this.heard.push(value);
    if (this.accept) this.value.set(value);
  }
}

describe('NumberField', () => {
  async function typed(text: string, accept: boolean, value = 12, unit = '', meanwhile = value) {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), providePrimeNG({})] });
    const fixture = TestBed.createComponent(Host);
    fixture.componentInstance.accept = accept;
    fixture.componentInstance.value.set(value);
    fixture.componentInstance.unit.set(unit);
    await fixture.whenStable();
    const field = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    field.focus();
    field.value = '';
    field.dispatchEvent(new InputEvent('input', { inputType: 'deleteContentBackward' }));
    if (text) {
      field.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: withText(text), cancelable: true, bubbles: true }),
      );
    }
    fixture.componentInstance.value.set(meanwhile);
    await fixture.whenStable();
    field.dispatchEvent(new FocusEvent('blur'));
    await new Promise((resolve) => setTimeout(resolve, 30));
    await fixture.whenStable();
    return { heard: fixture.componentInstance.heard, shows: field.value };
  }
  const withText = (text: string) => {
    const data = new DataTransfer();
    data.setData('text', text);
    return data;
  };

  it('hands on what was typed', async () =>
    expect(await typed('20', true)).toEqual({ heard: [20], shows: '20' }));
  it('shows what is, not what was typed, when that is not taken over', async () =>
    expect(await typed('20', false)).toEqual({ heard: [20], shows: '12' }));
  it('hands on nothing when it is left as it was shown, rounded', async () =>
    expect(await typed('12.3457', true, 12.345678)).toEqual({ heard: [], shows: '12.3457' }));
  it('keeps what is being typed when its number changes meanwhile, and shows the number when that was nothing new', async () => {
    expect(await typed('20', true, 12, '', 15)).toEqual({ heard: [20], shows: '20' });
    TestBed.resetTestingModule();
    expect(await typed('15', true, 12, '', 15)).toEqual({ heard: [], shows: '15' });
  });
  it('keeps its number when it is emptied', async () =>
    expect(await typed('', true)).toEqual({ heard: [], shows: '12' }));

  describe('of lengths, where the yard shows inches', () => {
    beforeEach(() => showYardIn('in'));
    afterEach(() => showYardIn('m'));

    it('shows and takes inches, and hands on metres, within its limits in metres', async () => {
      expect(await typed('100', true, 1.27, 'm')).toEqual({ heard: [2.54], shows: '100 in' });
      TestBed.resetTestingModule();
      expect((await typed('1', true, 1.27, 'm')).heard).toEqual([1]);
    });
    it('leaves what is no length as it is', async () =>
      expect(await typed('20', true, 12, '°')).toEqual({ heard: [20], shows: '20°' }));
  });
});

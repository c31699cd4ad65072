import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { BaseComponent } from 'primeng/basecomponent';
import { providePrimeNG } from 'primeng/config';
import { InputNumber } from 'primeng/inputnumber';
import { keepStyles } from './kept-styles';

type Styled = { $style: Record<string, unknown>; _componentStyle: object };

describe('Styles of the library', () => {
  const before = Object.getOwnPropertyDescriptor(BaseComponent.prototype, '$style')!;
  afterEach(() => Object.defineProperty(BaseComponent.prototype, '$style', before));

  it('are put together once a component, say the same, and follow what they are made of', () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), providePrimeNG({})] });
    const field = TestBed.createComponent(InputNumber).componentInstance as unknown as Styled;
    const asMade = field.$style;
    expect(field.$style).not.toBe(asMade);
    keepStyles();
    const kept = field.$style;
    expect(kept).toEqual(asMade);
    expect(kept['name']).toBe('inputnumber');
    expect(field.$style).toBe(kept);
    field._componentStyle = { ...field._componentStyle, name: 'another' };
    expect(field.$style['name']).toBe('another');
  });
});

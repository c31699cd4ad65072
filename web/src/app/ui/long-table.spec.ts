import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { providePrimeNG } from 'primeng/config';
import { pivotRows } from '../pages/bench/steps/pivot/pivot-rows';
import { transformRows } from '../pages/bench/steps/size/transform-rows';
import { threeParts } from '../testing/post';
import { LongTable, type LongRow } from './long-table';

describe('a long table', () => {
  const rows: LongRow[] = Array.from({ length: 5000 }, (_, i) => ({
    id: `n${i}`,
    cells: { part: `part ${i}`, size: `${5000 - i} mm` },
    sort: { size: 5000 - i },
    bad: i === 7,
  }));
  const show = async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), providePrimeNG({})] });
    const table = TestBed.createComponent(LongTable);
    table.componentRef.setInput('columns', [
      { field: 'part', label: 'Part' },
      { field: 'size', label: 'Size', figures: true },
    ]);
    table.componentRef.setInput('rows', rows);
    table.componentRef.setInput('checked', new Set(['n1']));
    table.componentRef.setInput('checkLabel', 'Bake');
    await table.whenStable();
    await new Promise((resolve) => setTimeout(resolve, 50));
    await table.whenStable();
    return { table, element: table.nativeElement as HTMLElement };
  };

  it('draws of thousands of rows only what is seen, and sorts by any column', async () => {
    const { table, element } = await show();
    const drawn = () =>
      [...element.querySelectorAll('tbody tr[data-row]')].map((row) => row.getAttribute('data-row'));
    expect(drawn().length).toBeGreaterThan(3);
    expect(drawn().length).toBeLessThan(60);
    element.querySelectorAll<HTMLElement>('th')[2]!.click();
    await table.whenStable();
    await new Promise((resolve) => setTimeout(resolve, 50));
    await table.whenStable();
    expect(drawn()[0]).toBe('n4999');
  });

  it('tells which row was chosen, and which was ticked', async () => {
    const { table, element } = await show();
    const told: unknown[] = [];
    table.componentInstance.chosen.subscribe((id) => told.push(id));
    table.componentInstance.checkedChange.subscribe((change) => told.push(change));
    element.querySelector<HTMLElement>('[data-row=n0] .quiet-button')!.click();
    element.querySelector<HTMLElement>('[data-row=n1] input')!.click();
    expect(told).toEqual(['n0', { id: 'n1', checked: false }]);
    expect(element.querySelector('[data-row=n1] input')!.getAttribute('aria-label')).toBe('Bake part 1');
  });

  it('rows of five thousand parts are made in time that grows with their number alone', () => {
    const document = threeParts();
    const nodes = Array.from({ length: 5000 }, (_, i) => ({
      ...document.nodes[0]!,
      id: `n${i + 1}`,
      parent: i ? i - 1 : null,
    }));
    const many = { ...document, nodes };
    expect([pivotRows(many).length, transformRows(many).length]).toEqual([5000, 5000]);
  });
});

/** What the open steps of the job card have in common. */
export const stepStyles = `
  :host { display: grid; grid-template-columns: minmax(0, 1fr); gap: 12px; }
  input[type='checkbox'] { accent-color: var(--tide); }
  h3 { font-size: 12px; font-weight: 600; color: var(--faded); margin-bottom: 3px; }
  table { width: 100%; border-collapse: collapse; }
  th { font-weight: 400; text-align: left; color: var(--faded); }
  td, th { padding: 3px 0; border-bottom: 1px dotted var(--rule); vertical-align: top; }
  td.number, th.number { text-align: right; padding-left: 10px; white-space: nowrap; }
  .row { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
`;

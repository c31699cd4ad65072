/** What the open steps of the job card have in common. */
export const stepStyles = `
  :host { display: grid; grid-template-columns: minmax(0, 1fr); gap: 12px; }
  input[type='checkbox'] { accent-color: var(--tide); }
  h3 { font-size: 12px; font-weight: 600; color: var(--faded); margin-bottom: 3px; }
  table { width: 100%; border-collapse: collapse; }
  th { font-weight: 400; text-align: left; color: var(--faded); }
  td, th { padding: 3px 0; border-bottom: 1px dotted var(--rule); vertical-align: top; }
  td.number, th.number { text-align: right; padding-left: 10px; white-space: nowrap; }
  .row { display: flex; align-items: center; gap: 6px 8px; flex-wrap: wrap; }
  .gap { flex: 1; }
  label { display: inline-flex; align-items: center; gap: 6px; }
  .act { height: 26px; padding: 0 9px; background: var(--card); border: 1px solid var(--rule); border-radius: var(--corner); cursor: pointer; white-space: nowrap; }
  .act:hover:not(:disabled) { border-color: var(--tide); }
  .act:disabled { color: var(--faded); cursor: default; opacity: 0.6; }
  .act.on { color: var(--card); background: var(--tide); border-color: var(--tide); }
  input.text, select { height: 26px; padding: 0 7px; background: var(--card); border: 1px solid var(--rule); border-radius: var(--corner); font: inherit; color: inherit; min-width: 0; }
  input.text { flex: 1; }
`;

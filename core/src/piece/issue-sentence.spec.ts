import * as z from 'zod';
import { pieceNameSchema, innerNameSchema } from './document.js';
import { historySchema } from './history.js';
import { issueSentence } from './issue-sentence.js';

describe('what a schema finds wrong, as a sentence', () => {
  const said = (schema: z.ZodType, value: unknown) =>
    issueSentence(schema.safeParse(value).error!.issues[0]!);

  it('says where it is and what belongs there', () => {
    const piece = z.object({ name: z.string(), sizes: z.array(z.number().max(4)) });
    expect(said(piece, { name: 1, sizes: [] })).toBe('“name” has to be a text.');
    expect(said(piece, { name: 'a', sizes: [1, 9] })).toBe('“sizes.1” is larger than 4.');
    expect(said(piece, 3)).toBe('What was sent has to be an object.');
  });

  it('passes whole sentences on', () => {
    expect(said(pieceNameSchema, 'a\u0001b')).toMatch(/^A name .*\.$/);
  });

  it('is one where a rule between fields is broken, and where a rule says nothing', () => {
    const [cursor] = historySchema.safeParse({ base: 1, edits: [], cursor: 3 }).error!.issues;
    expect(issueSentence(cursor!)).toMatch(/^“base” /);
    const two = z.array(z.number()).refine((list) => list.length === 2, 'two numbers are needed');
    expect(said(two, [1])).toBe('What was sent: two numbers are needed.');
    expect(
      said(
        z.string().refine(() => false),
        'a',
      ),
    ).toBe('What was sent does not fit.');
    expect(said(innerNameSchema, '‮.\u0000\n')).toBe('A name has no control characters; remove them.');
  });
});

import { describe, expect, it } from 'vitest';
import { pasted } from '../../src/views/parts/handed.ts';

const clipboard = (html: string, text: string) => ({ getData: (kind: string) => (kind === 'text/html' ? html : text) });

describe('what is pasted', () => {
  it.each([
    ['a page with a list keeps it', '<meta charset="utf-8"><ul><li>Bram: ropes</li></ul>', 'Bram: ropes', 'pasted.html', '<meta charset="utf-8"><ul><li>Bram: ropes</li></ul>'],
    ['a table too', '<table><tr><td>Bram</td></tr></table>', 'Bram', 'pasted.html', '<table><tr><td>Bram</td></tr></table>'],
    ['coloured text is text', '<span style="color:red">Bram: ropes</span>', 'Bram: ropes', null, 'Bram: ropes'],
    ['text is text', '', 'Ines: Morning.\nBram: Morning.', null, 'Ines: Morning.\nBram: Morning.'],
  ])('%s', async (_, html, text, name, content) => {
    const record = pasted(clipboard(html, text))!;
    expect(record.name).toBe(name);
    expect(await record.file.text()).toBe(content);
  });
  it('is nothing where there are no words', () => {
    expect(pasted(clipboard('', '  \n'))).toBeNull();
    expect(pasted(null)).toBeNull();
  });
});

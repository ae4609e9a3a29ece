import { describe, expect, it } from 'vitest';
import { checkSvg } from './check.ts';

const svg = (attributes: string, inner = '') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`;
const size = (attributes: string) => {
  const checked = checkSvg(svg(attributes));
  return checked.ok ? [checked.value.widthPx, checked.value.heightPx] : checked.error.code;
};

describe('the size of a drawing', () => {
  it.each([
    ['width="30" height="20"', [30, 20]],
    ['width="30px" height="20px" viewBox="0 0 3 2"', [30, 20]],
    // CSS Values Level 4, section 6.2: an inch is 96 px, 25.4 mm, 72 pt.
    ['width="1in" height="25.4mm"', [96, 96]],
    ['width="72pt" height="6pc"', [96, 96]],
    ['viewBox="0 0 300 150"', [300, 150]],
    ['width="100%" height="100%" viewBox="10,20,300,150"', [300, 150]],
    ['width="0" height="5"', 'damaged'],
    ['viewBox="0 0 0 10"', 'damaged'],
  ])('%s', (attributes, expected) => {
    const got = size(attributes);
    if (Array.isArray(got) && Array.isArray(expected))
      expected.forEach((value, i) => {
        expect(got[i]).toBeCloseTo(value, 9);
      });
    else expect(got).toEqual(expected);
  });
});

describe('what a drawing refers to', () => {
  const lost = (inner: string) => {
    const checked = checkSvg(svg('width="9" height="9"', inner));
    return checked.ok
      ? checked.value.notKept.map(({ code, detail }) => `${code} ${detail}`.trim())
      : checked.error.detail;
  };

  it.each([
    ['<use href="#a"/><image href="data:image/png;base64,AA=="/><rect fill="url(#g)"/>', []],
    ['<image href="http://example.org/a.png"/>', ['outside-reference http://example.org/a.png']],
    ['<image href="file:///etc/passwd"/>', ['outside-reference file:///etc/passwd']],
    ['<rect style="fill: url(other.svg#g)"/>', ['outside-reference fill: url(other.svg#g)']],
    ['<a href="http://example.org"><rect/></a>', []],
    ['<script>alert(1)</script><script>2</script>', ['script']],
  ])('%s', (inner, expected) => {
    expect(lost(inner)).toEqual(expected);
  });

  it('is refused where it makes entities, and where it is no drawing', () => {
    const entity = `<!DOCTYPE svg [<!ENTITY x "${'y'.repeat(99)}">]>${svg('width="9" height="9"')}`;
    expect(checkSvg(entity)).toMatchObject({ ok: false, error: { code: 'damaged' } });
    expect(checkSvg('<html/>').ok).toBe(false);
    expect(checkSvg(svg('width="9" height="9"', '<g>')).ok).toBe(false);
    // A document type without declarations of its own is what many drawings carry.
    const plain =
      '<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">';
    expect(checkSvg(plain + svg('width="9" height="9"')).ok).toBe(true);
  });
});

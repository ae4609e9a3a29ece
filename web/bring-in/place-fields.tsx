import { FITS, type Fit } from '@keen-ridge/core/edits/art';
import { NumberField } from '../ui/fields/number-field.tsx';
import { setImport, useImport } from './import-store.ts';

const FIT_WORDS: Readonly<Record<Fit, string>> = {
  'as-painted': 'As painted',
  'fit-width': 'Fit width',
  'fit-height': 'Fit height',
  cover: 'Cover the frame',
};

/** Where new paintings go on the datum; new versions keep the place that they have. */
export function PlaceFields() {
  const { place, tidy, removeLost, paintings } = useImport();
  const fresh = paintings.some((p) => !p.asVersion);
  return (
    <>
      {fresh && (
        <>
          <label className="block text-[11px] text-ink-2">
            Size on the datum
            <select
              className="mt-0.5 block h-[26px] rounded-[3px] border border-rule bg-raised px-1 text-[13px] text-ink"
              value={place.fit}
              onChange={(event) =>
                setImport({
                  place: { ...place, fit: FITS.find((fit) => fit === event.target.value) ?? 'as-painted' },
                })
              }
            >
              {FITS.map((fit) => (
                <option key={fit} value={fit}>
                  {FIT_WORDS[fit]}
                </option>
              ))}
            </select>
          </label>
          <NumberField
            className="w-24"
            label="Off centre E"
            unit="px"
            value={place.offsetXSpx}
            onCommit={(offsetXSpx) => setImport({ place: { ...place, offsetXSpx } })}
          />
          <NumberField
            className="w-24"
            label="Off centre S"
            unit="px"
            value={place.offsetYSpx}
            onCommit={(offsetYSpx) => setImport({ place: { ...place, offsetYSpx } })}
          />
          <label className="flex h-[26px] items-center gap-1.5">
            <input
              type="checkbox"
              checked={tidy}
              onChange={(event) => setImport({ tidy: event.target.checked })}
            />
            Tidy names
          </label>
        </>
      )}
      {paintings.some((p) => p.asVersion) && (
        <label className="flex h-[26px] items-center gap-1.5">
          <input
            type="checkbox"
            checked={removeLost}
            onChange={(event) => setImport({ removeLost: event.target.checked })}
          />
          Delete planes whose layer is gone
        </label>
      )}
    </>
  );
}

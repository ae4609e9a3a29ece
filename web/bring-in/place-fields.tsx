import { FITS, type Fit } from '@keen-ridge/core/edits/art';
import { Checkbox } from '../ui/fields/checkbox.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { Select } from '../ui/fields/select.tsx';
import { bringInWords as say } from '../words/bring-in.ts';
import { setImport, useImport } from './import-store.ts';

const FIT_WORDS: Readonly<Record<Fit, string>> = {
  'as-painted': say.asPainted,
  'fit-width': say.fitWidth,
  'fit-height': say.fitHeight,
  cover: say.coverTheFrame,
};

/** Where new paintings go on the datum; new versions keep the place that they have. */
export function PlaceFields() {
  const { place, tidy, removeLost, paintings } = useImport();
  const fresh = paintings.some((p) => !p.asVersion);
  return (
    <>
      {fresh && (
        <>
          <Select
            label={say.sizeOnTheDatum}
            className="w-40"
            options={FITS}
            words={FIT_WORDS}
            value={place.fit}
            onChange={(fit) => setImport({ place: { ...place, fit } })}
          />
          <NumberField
            className="w-24"
            label={say.offCentreE}
            unit="px"
            value={place.offsetXSpx}
            onCommit={(offsetXSpx) => setImport({ place: { ...place, offsetXSpx } })}
          />
          <NumberField
            className="w-24"
            label={say.offCentreS}
            unit="px"
            value={place.offsetYSpx}
            onCommit={(offsetYSpx) => setImport({ place: { ...place, offsetYSpx } })}
          />
          <Checkbox checked={tidy} onChange={(on) => setImport({ tidy: on })}>
            {say.tidyNames}
          </Checkbox>
        </>
      )}
      {paintings.some((p) => p.asVersion) && (
        <Checkbox checked={removeLost} onChange={(on) => setImport({ removeLost: on })}>
          {say.deletePlanesWhoseLayerIs}
        </Checkbox>
      )}
    </>
  );
}

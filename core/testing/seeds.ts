import fc from 'fast-check';

/** Property tests look at the same cases in every run: what fails here fails everywhere. Another seed finds others. */
const SEED = 20_261_125;

fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: SEED });

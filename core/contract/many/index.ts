export {
  type ChangedMany,
  type ChangeMany,
  changedManySchema,
  changeManySchema,
  type ManyChange,
  manyChangeSchema,
  type Offer,
  offerSchema,
  offersSchema,
  takeOfferSchema,
} from './many.ts';

export {
  changedIn,
  followAgain,
  followersOf,
  followingSet,
  followSet,
  type PlanesOfSet,
  planesForSet,
  setAsHere,
  withOwnCopies,
  withSet,
  withSetIds,
} from './sets.ts';

/** What all screens share. */
export { Bar } from './Bar';
export { ColourField } from './ColourField';
export { LayerTag } from './LayerTag';
export { MultiSelect } from './MultiSelect';
export { PageFrame, type FrameHandle } from './PageFrame';
export { Providers } from './Providers';
export { SubjectField, SubjectsField } from './SubjectPicker';
export { When } from './When';
export { draftChanged } from './draftChanged';
export { AddressesProvider, useAddresses, useBeginning, useDraftSite } from './addresses';
export { ApiError, call, callForLines, messageOf } from './api';
export { setAuthorName, useAuthor } from './author';
export { usePlace } from './place';
export { tellTyped, type TypedProblems } from './typed-problems';
export { useDone } from './useDone';
export { useLater } from './useLater';
export { readStored, useStored, writeStored } from './useStored';

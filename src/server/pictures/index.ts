/** Pictures and films of the catalogue: read, cleaned and checked as they come in, listed, and written out. */
export { pictureOf, picturesOf } from './list';
export { maxBytes, pictureJobs } from './read';
export { filesOfFolder, filesOfZip } from './sources';
export { type GivenFile, type PictureOutcome, removePictures, takePictures } from './take';
export { writePictures } from './write';

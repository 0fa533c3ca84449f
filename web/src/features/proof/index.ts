export { ProofPage } from './ProofPage';
export { latestProofQuery } from './api';

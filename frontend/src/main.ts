/** The words first: what is said while modules are read is said in the reader's language. */
import { loadWords } from '@/words'

void loadWords().then(() => import('./start'))

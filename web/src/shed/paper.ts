/** The paper that lies in the printers where somebody sits, by the language of their browser. */
export const paper = (): 'A4' | 'LETTER' => (navigator.language === 'en-US' ? 'LETTER' : 'A4')

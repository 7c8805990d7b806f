/** Processors by their published numbers. */
export const LEVELS = { I8086: '8086', I80186: '80186', I80286: '80286', I80386: '80386' } as const

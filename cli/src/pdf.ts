import { faultOf, pagesOf, type PaperFault, type ReadPages } from '@calm-keel/core/paper';

/** Reads the text of a PDF. Nothing in it is run, and nothing is fetched. */
export async function readPdf(bytes: Uint8Array): Promise<ReadPages | PaperFault> {
  const { getDocument, VerbosityLevel } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = getDocument({ data: new Uint8Array(bytes), verbosity: VerbosityLevel.ERRORS, isEvalSupported: false, useSystemFonts: false });
  try {
    return await pagesOf(await task.promise);
  } catch (error) {
    return faultOf(error);
  } finally {
    await task.destroy();
  }
}

/** A plain file server, to measure beside: sends the files of a folder, those that are compressed already as they are. */
import express from 'express';
import staticGzip from 'express-static-gzip';

const server = express()
  .use(staticGzip(process.argv[2] ?? '.', { enableBrotli: true, orderPreference: ['br'] }))
  .listen(0, '127.0.0.1', () => {
    const address = server.address();
    process.send?.(typeof address === 'object' && address ? address.port : 0);
  });

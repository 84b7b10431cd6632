// Imported before anything that asks: the served app runs the production builds of its packages unless told otherwise.
process.env.NODE_ENV ??= 'production';

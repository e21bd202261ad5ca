-- Pieces of files come and go within the hour. The default compression takes longer over them than all the rest of bringing a file; lz4 hardly any
-- time, and where a server was built without it they are better not compressed at all.
DO $$
BEGIN
  ALTER TABLE slate.import_piece ALTER COLUMN bytes SET COMPRESSION lz4;
EXCEPTION WHEN feature_not_supported THEN
  ALTER TABLE slate.import_piece ALTER COLUMN bytes SET STORAGE EXTERNAL;
END
$$;

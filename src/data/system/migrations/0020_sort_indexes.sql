-- Whoever sorts a large table by a column has an index made for it, by a job, once.
CREATE FUNCTION slate.ask_sort_index(of_table uuid, by_column text, descending boolean) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.may(of_table, 'see') THEN RAISE EXCEPTION 'not theirs to sort' USING ERRCODE = 'TS010'; END IF;
  PERFORM graphile_worker.add_job('sort-index', json_build_object('table', of_table, 'column', by_column, 'descending', descending), job_key := 'sort-index:' || of_table || ':' || by_column || ':' || descending, max_attempts := 2);
END $$;

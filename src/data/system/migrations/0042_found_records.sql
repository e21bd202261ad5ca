-- A draft of a new record becomes a change of one that is there, by its sender; nothing of it has been sent yet.
CREATE FUNCTION slate.turn_to_record(of_submission uuid, record uuid, was jsonb, given jsonb, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE submission s SET of_record = record, base = was, answers = given, version = s.version + 1, updated_at = happened
    WHERE s.id = of_submission AND s.sender_id = slate.asking() AND s.state = 'draft' AND s.of_record IS NULL AND s.number IS NULL;
  IF NOT FOUND THEN RAISE EXCEPTION 'this draft cannot go onto a record' USING ERRCODE = 'TS010'; END IF;
END $$;

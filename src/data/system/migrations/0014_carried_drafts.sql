-- A draft goes on under the live release of its form, with the answers that have a question there. What was sent stays under the release it was sent under.
CREATE FUNCTION slate.carry_draft(of_submission uuid, to_release uuid, given jsonb, happened timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE submission s SET release_id = to_release, answers = given, version = s.version + 1, updated_at = happened
    WHERE s.id = of_submission AND s.sender_id = slate.asking() AND s.state = 'draft'
      AND to_release = (SELECT r.id FROM form_release r WHERE r.form_id = s.form_id ORDER BY r.number DESC LIMIT 1);
  IF NOT FOUND THEN RAISE EXCEPTION 'this draft cannot be carried over' USING ERRCODE = 'TS010'; END IF;
END $$;

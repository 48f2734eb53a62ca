"""Line-up: candidates measured on the same ground, ranked by what counts for somebody, with how sure that is."""

-- Rules that tell palms from fingers and the measured posture, for a hand on a device.
CREATE TABLE palm_settings (
    hand_id TEXT NOT NULL REFERENCES hands, device_id TEXT NOT NULL REFERENCES devices, rules TEXT NOT NULL, posture TEXT, created_at TEXT NOT NULL,
    PRIMARY KEY (hand_id, device_id)
) STRICT;

"""Line: driveline angles, lengths, slip and travel; chain and half shafts."""

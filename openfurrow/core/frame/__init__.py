"""Frame: beams, purlins and struts."""

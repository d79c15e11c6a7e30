"""What docstrings say."""


class Berth:
    def moor(self, vessel, hours=None, *, name="north"):
        """Moors.

        Args:
            vessel (str): which
            hours (int, optional): how long

        Returns:
            bool: whether there was room
        """
        return self.free(vessel)


def dredge(berth, depth, by=None):
    """Dredges.

    :param Berth berth: where
    :param depth: how deep
    :type depth: float
    :param by: whom
    :type by: the crew
    :rtype: list of str
    """
    return berth.log(depth)


def survey(berths, tides):
    """Surveys.

    Parameters
    ----------
    berths : list[Berth]
    tides : dict[str, float], optional

    Returns
    -------
    int
    """
    return berths.count(tides)

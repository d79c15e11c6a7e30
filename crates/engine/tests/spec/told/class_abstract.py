#- in full
from abc import ABC, abstractmethod

class Vessel(ABC):
    @abstractmethod
    def load(self) -> int: ...  #< declared "marked as abstract here"

Vessel()  #! class.abstract@1-9 "`Vessel` leaves `load` open"  #> subclass "make an object of a subclass that has the methods"  #> define "define the methods in the class"

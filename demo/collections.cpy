      *  What a tanker's computer writes at the end of its round: one
      *  record of each kind to a line of 80.
       01  HEADER-REC.
           05  REC-TAG              PIC X          VALUE 'H'.
           05  WRITTEN-ON           PIC 9(8).
           05  ROUTE                PIC X(3).
           05  SOFTWARE             PIC X(10).
           05  FILLER               PIC X(58).
       01  ROUND-REC.
           05  REC-TAG              PIC X          VALUE 'R'.
           05  ROUND-NO             PIC 9(6).
           05  TANKER               PIC X(8).
           05  DRIVER               PIC X(20).
           05  STARTED.
               10  STARTED-ON       PIC 9(8).
               10  STARTED-AT       PIC 9(4).
           05  FILLER               PIC X(33).
       01  COLLECTION-REC.
           05  REC-TAG              PIC X          VALUE 'C'.
           05  STOP-NO              PIC 9(3).
           05  FARM                 PIC 9(5).
           05  COLLECTED-AT         PIC 9(4).
           05  LITRES               PIC 9(6).
           05  TEMPERATURE          PIC S99V9
                                    SIGN IS TRAILING SEPARATE CHARACTER.
           05  SAMPLE-NO            PIC X(12).
           05  REMARK               PIC X(45).
       01  TRAILER-REC.
           05  REC-TAG              PIC X          VALUE 'T'.
           05  COLLECTIONS          PIC 9(6).
           05  LITRES               PIC 9(9).
           05  FILLER               PIC X(64).
